import { Box } from "@mui/material";
import { Cap } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import type { ClipLine, FeedLine, Fitting } from "../../model/lines";
import { NO_NUMBER, typedNumber } from "../../model/values";
import type { LineEdits } from "./useLineEdits";

/** How a clip lies on its matrix. */
export function FittingControl({
  line,
  onCommit,
  onType,
}: {
  line: ClipLine | FeedLine;
  onCommit: LineEdits["commit"];
  onType: LineEdits["type"];
}) {
  const { fitting } = line;
  const set = (changes: Partial<Fitting>) => onCommit({ fitting: { ...fitting, ...changes } });
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "64px 1fr", rowGap: 1, alignItems: "center" }}>
      <Cap>lies</Cap>
      <Choices
        names={[
          ["fill", "fill: covers all, cuts what is over"],
          ["fit", "fit: shows all, the rest stays clear"],
          ["stretch", "stretch: bent to the matrix"],
        ]}
        chosen={fitting.fit}
        onChoose={(fit) => set({ fit })}
      />
      <Cap>turned</Cap>
      <Choices
        names={[
          ["0", "upright"],
          ["90", "90°"],
          ["180", "180°"],
          ["270", "270°"],
        ]}
        chosen={String(fitting.rotate) as "0"}
        onChoose={(rotate) => set({ rotate: Number(rotate) as Fitting["rotate"] })}
      />
      <Cap>mirrored</Cap>
      <Choices
        names={[
          ["none", "not"],
          ["across", "across"],
          ["down", "down"],
          ["both", "both"],
        ]}
        chosen={fitting.mirror}
        onChoose={(mirror) => set({ mirror })}
      />
      {line.paints === "clip" && (
        <>
          <Cap>plays</Cap>
          <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
            <Typed
              numeric
              width={58}
              label="Rounds of the clip"
              value={String(line.rounds)}
              onCommit={(text) => {
                const rounds = typedNumber(text);
                return rounds === null ? NO_NUMBER : onType({ rounds });
              }}
            />
            <Cap>{line.rounds ? "rounds, then shows" : "rounds: without end"}</Cap>
            {line.rounds > 0 && (
              <Choices
                names={[
                  ["hold", "its last picture"],
                  ["clear", "nothing"],
                ]}
                chosen={line.ends}
                onChoose={(ends) => onCommit({ ends })}
              />
            )}
          </Box>
        </>
      )}
    </Box>
  );
}
