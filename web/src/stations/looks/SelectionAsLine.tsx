import { Box, Button } from "@mui/material";
import { useState } from "react";
import { answer, client, type Fault } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, FaultNote } from "../../components/atoms";
import { Field } from "../../components/Field";

/** Paints on lamps that are on no matrix: what is typed becomes a matrix of one line at once. */
export function SelectionAsLine({ onMade }: { onMade: (matrix: string) => unknown }) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState<Fault | null>(null);
  const edit = useEdit();
  const make = async () => {
    setFault(null);
    const body = { id: newId(), selection: text };
    if (!(await edit(() => answer(client.POST("/api/matrices/line", { body })), setFault))) return;
    setText("");
    onMade(body.id);
  };
  return (
    <Box
      component="form"
      sx={{ display: "flex", gap: 0.75, alignItems: "center", mt: 1, flexWrap: "wrap" }}
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        void make();
      }}
    >
      <Cap>or any selection, as one line</Cap>
      <Field
        width={130}
        label="Selection as a line"
        placeholder="Bars & odd"
        value={text}
        onChange={setText}
      />
      <Button type="submit" disabled={!text.trim()}>
        Paint on it
      </Button>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
    </Box>
  );
}
