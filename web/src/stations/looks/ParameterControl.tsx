import { Box } from "@mui/material";
import { Cap, Chip } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import { ValueSlider } from "../../components/ValueSlider";
import type { WithParams } from "../../model/lines";
import { DriveControl } from "./DriveControl";
import type { LineEdits } from "./useLineEdits";
import { useParameters } from "./useParameters";

/** What a text can tell by itself. */
const TELLS = [
  ["{time}", "the time"],
  ["{date}", "the date"],
  ["{countdown 21:00}", "a countdown"],
] as const;

interface ParameterProps {
  look: string;
  line: WithParams;
  name: string;
  edits: LineEdits;
}

/** A parameter of what a line paints: chosen, or typed, dragged and moved by itself. */
export function ParameterControl({ look, line, name, edits }: ParameterProps) {
  const { move, commit } = edits;
  const parameter = useParameters(line).find((one) => one.name === name);
  if (!parameter) return null;
  if (parameter.kind === "choice")
    return (
      <Choices
        names={parameter.choices.map((choice) => [choice, choice])}
        chosen={String(line.params[name] ?? parameter.default)}
        onChoose={(choice) => commit({ params: { ...line.params, [name]: choice } })}
      />
    );
  if (parameter.kind === "text") {
    const text = String(line.params[name] ?? parameter.default);
    const set = (value: string) => edits.type({ params: { [name]: value } });
    return (
      <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap" }}>
        <Typed width={340} label={name} value={text} onCommit={set} />
        <Cap>add</Cap>
        {TELLS.map(([inserted, says]) => (
          <Chip key={inserted} title={`Adds ${inserted}`} onClick={() => void set(`${text} ${inserted}`)}>
            {says}
          </Chip>
        ))}
      </Box>
    );
  }
  // A width in steps may go to thousands; the slider covers the useful part, typing the whole of it.
  const maximum = Math.min(parameter.maximum, name === "width" ? 100 : parameter.maximum);
  return (
    <>
      <ValueSlider
        label={name}
        value={Number(line.params[name] ?? parameter.default)}
        minimum={parameter.minimum}
        maximum={maximum}
        limit={parameter.maximum}
        unit={parameter.unit}
        onMove={(value) => move({ params: { ...line.params, [name]: value } })}
        onCommit={(value) => commit({ params: { ...line.params, [name]: value } })}
      />
      <DriveControl
        look={look}
        line={line}
        name={`params.${name}`}
        unit={parameter.unit}
        each={parameter.each}
        edits={edits}
      />
    </>
  );
}
