import { Box } from "@mui/material";
import { useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, Num, PaneHead } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { addressOf, type Bead } from "../../model/placements";
import type { WalkView } from "../../model/walks";
import { backPicture, useBack } from "../../stores/back";
import { useView } from "../../stores/view";
import { LookBack } from "./LookBack";
import { LampsMap } from "./walk/LampsMap";

export type Sight = "channels" | "lamps";

export const SIGHTS = [
  ["channels", "channels"],
  ["lamps", "lamps"],
] as const;

interface LampsProps {
  show: WholeShow;
  walk: WalkView | null;
  onSight: (sight: Sight) => void;
  onCell: (bead: Bead, address: string) => void;
}

/** A matrix's lamps as they are lit, in place of the channels. */
export function Lamps({ show, walk, onSight, onCell }: LampsProps) {
  const chosen = useView((view) => view.matrix);
  const universe = useView((view) => view.universe);
  const back = useBack((one) => one.moment !== null);
  const [over, setOver] = useState<Bead | null>(null);
  const id = walk?.matrix || chosen;
  const matrix = show.matrices.find((one) => one.id === id) ?? show.matrices[0];
  if (!matrix) return null;
  return (
    <>
      <PaneHead title={matrix.name}>
        <Choices names={SIGHTS} chosen={"lamps" as Sight} onChoose={onSight} />
      </PaneHead>
      <Box
        sx={{
          px: 2,
          pb: 1,
          display: "flex",
          gap: 0.75,
          flexWrap: "wrap",
          minHeight: 24,
          alignItems: "center",
        }}
      >
        {!walk?.matrix && show.matrices.length > 1 && (
          <Choices
            names={show.matrices.map((one) => [one.id, one.name] as const)}
            chosen={matrix.id}
            onChoose={(next) => useView.setState({ matrix: next })}
          />
        )}
        <Cap sx={{ fontSize: 13 }}>
          {over ? (
            <>
              <Num>{`${over.fixture.number}:${over.cell}`}</Num> {over.fixture.name},{" "}
              <Num>{addressOf(over.position)}</Num>
            </>
          ) : back ? (
            "as it was lit then"
          ) : walk ? (
            "as sent; a click goes to that cell"
          ) : (
            "as sent; a click asks why"
          )}
        </Cap>
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, display: "flex", px: 2, pb: 2 }}>
        <LampsMap
          show={show}
          matrix={matrix}
          walk={walk}
          instead={back ? backPicture : undefined}
          onCell={setOver}
          onChoose={(bead) => onCell(bead, addressOf(bead.position))}
        />
      </Box>
      <LookBack matrix={matrix.id} universe={universe} />
    </>
  );
}
