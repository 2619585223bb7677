import { Box } from "@mui/material";
import { useState } from "react";
import { Cap, Chip } from "../../../components/atoms";
import { Field } from "../../../components/Field";
import { useAttributes } from "./useAttributes";

const SHOWN = 9;

/** An attribute, found by typing its word or its standard name. */
export function AttributeField({ value, onChange }: { value: string; onChange: (name: string) => void }) {
  const [text, setText] = useState("");
  const { all } = useAttributes();
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const number = words.find((word) => /^\d+$/.test(word));
  const found = words.length
    ? all
        .filter((one) =>
          words.every((word) => word === number || `${one.name} ${one.word}`.toLowerCase().includes(word)),
        )
        .map((one) => (number && /1/.test(one.name) ? { ...one, name: one.name.replace("1", number) } : one))
    : [];
  const take = (name: string) => {
    onChange(name);
    setText("");
  };
  return (
    <Box>
      <Box
        sx={{ display: "grid", gridTemplateColumns: "minmax(64px, auto) 1fr", gap: 1, alignItems: "center" }}
        onKeyDown={(event: React.KeyboardEvent) => {
          if (event.key !== "Enter" || !text.trim()) return;
          const first = found[0];
          take(first ? first.name : text.trim());
        }}
      >
        <Cap title="its name in GDTF">{value}</Cap>
        <Field
          label="Attribute by typing"
          placeholder="red, pan, gobo 2 ..."
          width="100%"
          value={text}
          onChange={setText}
        />
      </Box>
      {words.length > 0 && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, mt: 1 }}>
          {found.slice(0, SHOWN).map((one) => (
            <Chip key={one.name} title={one.name} onClick={() => take(one.name)}>
              {one.word} {number && /\d/.test(one.name) ? number : ""}
            </Chip>
          ))}
          {!found.length && <Cap>Enter takes '{text.trim()}' as it is.</Cap>}
        </Box>
      )}
    </Box>
  );
}
