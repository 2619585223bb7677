import { Box, Button } from "@mui/material";
import { useState } from "react";
import { ink } from "../theme/tokens";
import { FaultNote } from "./atoms";
import { Mark } from "./Mark";

export interface PassFormProps {
  wrong: string;
  onGive: (code: string) => void;
}

/** One field for the pass code. */
export function PassForm({ wrong, onGive }: PassFormProps) {
  const [code, setCode] = useState("");
  return (
    <Box
      component="form"
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        onGive(code);
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
