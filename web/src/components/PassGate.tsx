import { Box, Button } from "@mui/material";
import { type ReactNode, useState } from "react";
import { answer, client, isFault } from "../api/client";
import { queries, useShow } from "../api/show";
import { ink } from "../theme/tokens";
import { FaultNote } from "./atoms";
import { Mark } from "./Mark";

/** Asks for the pass code where the server wants one, and tells when the server is away at first. */
export function PassGate({ children }: { children: ReactNode }) {
  const { error } = useShow();
  const [code, setCode] = useState("");
  const [wrong, setWrong] = useState("");
  if (error?.status !== 401) return children;
  const give = async () => {
    try {
      await answer(client.POST("/api/pass", { body: { code } }));
      await queries.invalidateQueries();
      location.reload();
    } catch (fault) {
      if (isFault(fault)) setWrong(`${fault.what} ${fault.repair}`);
    }
  };
  return (
    <Box
      component="form"
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        void give();
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
