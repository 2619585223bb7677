import { Box, Button } from "@mui/material";
import { Cap } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import type { ChaseLine } from "../../model/lines";
import { NO_NUMBER, typedNumber } from "../../model/values";
import { useView } from "../../stores/view";
import type { LineEdits } from "./useLineEdits";

export const ORDER_SAYS: Record<ChaseLine["order"], string> = {
  along: "frame after frame",
  turns: "there and back",
  dealt: "dealt anew each round",
};

/** In which order a chase's frames show, for how many rounds, and what is shown then. */
export function ChaseControl({ line, edits }: { line: ChaseLine; edits: LineEdits }) {
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      <Choices
        names={(Object.keys(ORDER_SAYS) as ChaseLine["order"][]).map((one) => [one, ORDER_SAYS[one]])}
        chosen={line.order}
        onChoose={(order) => edits.commit({ order })}
      />
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Cap>rounds, 0 for ever</Cap>
        <Typed
          numeric
          width={64}
          label="Rounds"
          value={String(line.rounds)}
          onCommit={(text) => {
            const rounds = typedNumber(text);
            return rounds === null ? NO_NUMBER : edits.type({ rounds });
          }}
        />
        <Cap>then it shows</Cap>
        <Choices
          names={[
            ["hold", "its last frame"],
            ["clear", "nothing"],
          ]}
          chosen={line.ends}
          onChoose={(ends) => edits.commit({ ends })}
        />
        <Button sx={{ ml: "auto" }} onClick={() => useView.setState({ chase: line.chase })}>
          Draw on it
        </Button>
      </Box>
    </Box>
  );
}
