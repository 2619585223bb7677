import { Box, Button } from "@mui/material";
import { useState } from "react";
import { answer, client, problemOf } from "../../../api/client";
import { refreshShow } from "../../../api/show";
import { Cap, FaultNote } from "../../../components/atoms";
import { ink, mono } from "../../../theme/tokens";

/** A table of colours, pasted: a name and red, green, blue in each line. */
export function PresetTable({ onDone }: { onDone: () => void }) {
  const [csv, setCsv] = useState("");
  const [fault, setFault] = useState("");
  const add = async () => {
    const problem = await problemOf(() =>
      answer(client.POST("/api/presets/table", { body: { csv, folder: "Colours" } })),
    );
    setFault(problem);
    await refreshShow();
    if (!problem) onDone();
  };
  return (
    <Box sx={{ mb: 1 }}>
      <Box
        component="textarea"
        aria-label="Table of colours"
        value={csv}
        placeholder={"Fog lamp, 204, 91, 18\nShallows, 3 %, 33 %, 36 %"}
        onChange={(event: React.ChangeEvent<HTMLTextAreaElement>) => setCsv(event.target.value)}
        sx={{
          width: "100%",
          height: 92,
          p: 1,
          font: `400 12.5px ${mono}`,
          color: ink.text,
          background: ink.row,
          border: `1px solid ${ink.hair2}`,
          borderRadius: "4px",
          resize: "vertical",
        }}
      />
      {fault && <FaultNote what={fault} />}
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <Button disabled={!csv.trim()} onClick={() => void add()}>
          Make presets of it
        </Button>
        <Cap>name, red, green, blue: 0 to 255 or percent</Cap>
      </Box>
    </Box>
  );
}
