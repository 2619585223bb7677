import { Box, Button } from "@mui/material";
import { useEffect } from "react";
import { clearNotice, useNotices } from "../stores/notices";
import { ink } from "../theme/tokens";
import { FaultNote } from "./atoms";

const SAID_MS = 3500;
/** What can be taken back stays long enough to be read and pressed. */
const BACK_MS = 12_000;

/** One fault or one plain sentence, above the live strip. A fault stays until it is put away. */
export function Notice() {
  const { fault, said, back } = useNotices();
  useEffect(() => {
    if (!said) return;
    const timer = setTimeout(clearNotice, back ? BACK_MS : SAID_MS);
    return () => clearTimeout(timer);
  }, [said, back]);
  if (!fault && !said) return null;
  return (
    <Box
      sx={{
        position: "fixed",
        bottom: 104,
        left: "50%",
        transform: "translateX(-50%)",
        zIndex: 20,
        maxWidth: 620,
        px: 2,
        py: 1,
        display: "flex",
        gap: 2,
        alignItems: "center",
        background: ink.panel,
        border: `1px solid ${fault ? ink.brass : ink.hair2}`,
        borderRadius: "6px",
      }}
    >
      {fault ? <FaultNote what={fault.what} repair={fault.repair} /> : <span role="status">{said}</span>}
      {back && (
        <Button
          color="primary"
          onClick={() => {
            back();
            clearNotice();
          }}
        >
          Take back
        </Button>
      )}
      {fault && (
        <Button onClick={clearNotice} aria-label="Put the message away">
          Put away
        </Button>
      )}
    </Box>
  );
}
