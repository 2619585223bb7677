import { Box, Button } from "@mui/material";
import type { LookView } from "../../../api/client";
import { Cap } from "../../../components/atoms";
import { Choices } from "../../../components/Choices";
import { Typed } from "../../../components/Typed";
import type { AttributeLine } from "../../../model/lines";
import { DriveControl } from "../DriveControl";
import type { LineEdits } from "../useLineEdits";
import { useAttributes } from "./useAttributes";

interface ControlProps {
  look: LookView;
  line: AttributeLine;
  name: string;
  edits: LineEdits;
}

/** One attribute: typed, chosen by its word, and what is added to it over time. */
export function AttributeControl({ look, line, name, edits }: ControlProps) {
  const one = useAttributes(look, line).attributes.find((each) => each.attribute === name);
  if (!one) return <Cap>Nothing of what this line is over has {name}.</Cap>;
  const text = line.params[name] ?? "";
  const set = (typed: string) => edits.type({ params: { [name]: typed } });
  return (
    <>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Cap>{one.word}</Cap>
        <Typed
          numeric
          width={150}
          label={`${one.word} is set to`}
          value={text}
          placeholder="left alone"
          onCommit={set}
        />
        {one.words.length > 0 && (
          <Choices
            names={one.words.map((word) => [word, word])}
            chosen={text}
            onChoose={(word) => void set(word)}
          />
        )}
        {text !== "" && (
          <Button variant="text" onClick={() => void set("")}>
            Leave it alone
          </Button>
        )}
      </Box>
      <Cap sx={{ mt: 0.75 }}>
        {one.takes} {one.fixtures === 1 ? "1 fixture has it." : `${one.fixtures} fixtures have it.`}
      </Cap>
      <DriveControl
        look={look.id}
        line={line}
        name={`params.${name}`}
        says="added to it"
        unit={one.unit}
        each
        edits={edits}
      />
    </>
  );
}
