import { Box } from "@mui/material";
import type { LookView, WholeShow } from "../../api/client";
import { Cap, Chip } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { called, type Line } from "../../model/lines";
import type { LineEdits } from "./useLineEdits";

const NOTHING = "none";

interface ThroughProps {
  show: WholeShow;
  look: LookView;
  line: Line;
  edits: LineEdits;
}

/** Which other line this one is painted through, by what of it, and whether that one is seen itself. */
export function ThroughControl({ show, look, line, edits }: ThroughProps) {
  const through = line.through;
  const others = look.lines
    .map((one, at) => [one, at + 1] as const)
    .filter(([one]) => one.id !== line.id && one.paints !== "attributes");
  const mask = look.lines.find((one) => one.id === through?.line);
  const set = (changes: Partial<NonNullable<Line["through"]>>) =>
    through && edits.type({ through: { ...through, ...changes } });
  if (!others.length) return <Cap>There is no other line in this look. Add one, then choose it here.</Cap>;
  return (
    <Box role="group" aria-label="Painted through" sx={{ display: "grid", gap: 1 }}>
      <Choices
        names={[
          [NOTHING, "whole"],
          ...others.map(([one, place]) => [one.id, `${place} ${called(one, show.clips)}`] as const),
        ]}
        chosen={through?.line ?? NOTHING}
        onChoose={(id) =>
          edits.type({
            through: id === NOTHING ? NOTHING : { by: "light", inverse: false, ...through, line: id },
          })
        }
      />
      {through && mask && (
        <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center" }}>
          <Cap>where it</Cap>
          <Choices
            names={[
              ["light", "is bright"],
              ["cover", "covers"],
            ]}
            chosen={through.by}
            onChoose={(by) => void set({ by })}
          />
          <Chip
            active={through.inverse}
            aria-pressed={through.inverse}
            onClick={() => void set({ inverse: !through.inverse })}
          >
            the other way round
          </Chip>
          <Chip
            active={mask.stencil}
            aria-pressed={mask.stencil}
            title="It is there to be painted through and paints nothing itself"
            onClick={() => void edits.other(mask.id, { stencil: !mask.stencil })}
          >
            {called(mask, show.clips)} stays unseen
          </Chip>
        </Box>
      )}
    </Box>
  );
}
