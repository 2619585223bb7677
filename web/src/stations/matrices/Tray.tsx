import { Box } from "@mui/material";
import { Cap, Chip, Num } from "../../components/atoms";
import { ink } from "../../theme/tokens";
import type { TrayRun } from "./useTray";

/** A cell picked from the tray; the run goes on to `last`. */
export interface Hand {
  fixture: string;
  number: number;
  cell: number;
  last: number;
}

interface TrayProps {
  /** Undefined before it is known. */
  runs: TrayRun[] | undefined;
  hand: Hand | null;
  onTake: (hand: Hand | null) => void;
  onShow: (fixture: string) => void;
}

const SHOWN = 40;

/** Cells that stand on no square of this matrix. Take a run, then click the squares one after another. */
export function Tray({ runs: known, hand, onTake, onShow }: TrayProps) {
  const runs = known ?? [];
  const cells = runs.reduce((sum, run) => sum + run.last - run.first + 1, 0);
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}`, px: 2, py: 0.75, overflowX: "auto" }} aria-label="Tray">
      <Box
        sx={{
          display: "flex",
          gap: 1,
          whiteSpace: "nowrap",
          "& > *": { flex: "none" },
          alignItems: "center",
        }}
      >
        <b style={{ fontWeight: 600, fontSize: 13 }}>Not placed</b>
        <Cap>{!known ? "looking" : cells ? `${cells} cells` : "every cell has its square"}</Cap>
        {runs.slice(0, SHOWN).map(({ fixture, first, last }) => {
          const on = hand?.fixture === fixture.id && hand.last === last;
          return (
            <Chip
              key={`${fixture.id} ${first}`}
              active={on}
              aria-pressed={on}
              title={fixture.name}
              onClick={() => {
                onShow(fixture.id);
                onTake(on ? null : { fixture: fixture.id, number: fixture.number, cell: first, last });
              }}
            >
              <Num>{`${fixture.number}:${first}${last > first ? `-${last}` : ""}`}</Num>
            </Chip>
          );
        })}
        {runs.length > SHOWN && <Cap>and {runs.length - SHOWN} more runs</Cap>}
      </Box>
    </Box>
  );
}
