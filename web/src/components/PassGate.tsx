import { Box, Button } from "@mui/material";
import { type ReactNode, useCallback, useEffect, useState } from "react";
import { answer, client, isFault } from "../api/client";
import { queries, useShow } from "../api/show";
import { ink } from "../theme/tokens";
import { FaultNote } from "./atoms";
import { Mark } from "./Mark";

/** Where the QR code of Access leads: the code stands behind the #, which no server is sent. */
const JOIN = "/join";
/** And that of a page. */
const PAGE = "/page/";
const NARROW = 700;

/** Asks for the pass code where the server wants one, and tells when the server is away at first. */
export function PassGate({ children }: { children: ReactNode }) {
  const { error } = useShow();
  const [code, setCode] = useState("");
  const [wrong, setWrong] = useState("");
  const joining =
    (location.pathname === JOIN || location.pathname.startsWith(PAGE)) && location.hash.length > 1;
  const give = useCallback(async (given: string) => {
    try {
      await answer(client.POST("/api/pass", { body: { code: given } }));
      await queries.invalidateQueries();
      // The code does not stay in the address, nor in the history.
      if (location.hash) history.replaceState(null, "", location.pathname);
      location.replace(location.pathname === JOIN ? (innerWidth < NARROW ? "/phone" : "/") : location.href);
      if (location.pathname !== JOIN) location.reload();
    } catch (fault) {
      if (isFault(fault)) setWrong(`${fault.what} ${fault.repair}`);
    }
  }, []);
  useEffect(() => {
    if (joining) void give(decodeURIComponent(location.hash.slice(1)));
  }, [joining, give]);
  if (error?.status !== 401 && !joining) return children;
  return (
    <Box
      component="form"
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        void give(code);
      }}
      sx={{ height: "100vh", display: "grid", placeContent: "center", gap: 2, width: 320, mx: "auto" }}
    >
      <Box sx={{ display: "flex", gap: 1.5, fontSize: 18, fontWeight: 650 }}>
        <Mark /> Heliograph
      </Box>
      <label htmlFor="pass">Pass code</label>
      <Box
        component="input"
        id="pass"
        type="password"
        autoFocus
        value={code}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => setCode(event.target.value)}
        sx={{
          height: 36,
          px: 1,
          font: "inherit",
          color: ink.text,
          background: ink.row,
          border: `1px solid ${ink.hair2}`,
          borderRadius: "4px",
        }}
      />
      {wrong && <FaultNote what={wrong} />}
      <Button type="submit" color="primary">
        Open
      </Button>
    </Box>
  );
}
