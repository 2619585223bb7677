import { Box } from "@mui/material";
import { memo } from "react";
import { useLocation } from "wouter";
import type { FixtureView } from "../../api/client";
import { chooseFixtures } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { type Finding, FindingSign } from "./findings";
import type { SmallRun } from "./universes";
import type { FixtureDrag } from "./useFixtureDrag";

/** A piece wider than this has room for a sign beside its number, px. */
const SIGN_FROM = 46;

/** The sign of what is found at a fixture: on it where there is room beside its number, else behind it. */
export function OnPiece({ finding, first, last }: { finding: Finding; first: number; last: number }) {
  return (
    <span
      style={{
        position: "absolute",
        left: last - first > SIGN_FROM ? last - 14 : last + 2,
        top: 2,
        pointerEvents: "none",
        lineHeight: 0,
      }}
    >
      <FindingSign finding={finding} size={12} />
    </span>
  );
}

/** Small fixtures that have no room for their numbers, named together. */
export function RunName({ run }: { run: SmallRun }) {
  return (
    <Box
      aria-hidden="true"
      sx={{
        position: "absolute",
        left: run.beside ? run.last + 4 : run.first + 1,
        top: 1,
        px: "3px",
        fontSize: 12,
        lineHeight: "17px",
        whiteSpace: "nowrap",
        pointerEvents: "none",
        color: run.beside ? ink.soft : ink.text,
        background: run.beside ? "none" : ink.row,
        borderRadius: "2px",
      }}
    >
      {run.text}
    </Box>
  );
}

interface PieceProps {
  fixture: FixtureView;
  universe: number;
  first: number;
  last: number;
  guarded: boolean;
  chosen: boolean;
  lifted: boolean;
  grip: FixtureDrag["grip"];
  left: () => number;
}

/** A fixture, or what of it lies on this universe. */
export const OnRuler = memo(function OnRuler({
  fixture,
  universe,
  first,
  last,
  guarded,
  chosen,
  lifted,
  grip,
  left,
}: PieceProps) {
  const [, navigate] = useLocation();
  const conflict = fixture.conflict.length > 0;
  const shares = conflict ? `, shares channels with ${fixture.conflict.join(", ")}` : "";
  return (
    <button
      type="button"
      aria-label={`${fixture.number} on U${universe}`}
      title={`${fixture.number} ${fixture.name}, U${universe}.${first} to ${last}${shares}`}
      {...grip(fixture, first, left)}
      onClick={() => chooseFixtures([fixture.id])}
      onDoubleClick={() => navigate("/rig")}
      style={{
        position: "absolute",
        left: first - 1,
        width: last - first + 1,
        top: 0,
        height: 24,
        padding: 0,
        paddingLeft: last - first > 20 ? 4 : 0,
        textAlign: "left",
        overflow: "hidden",
        font: `500 12px ${mono}`,
        color: chosen ? ink.brass : guarded ? ink.coral : ink.text,
        background: conflict
          ? `repeating-linear-gradient(135deg, ${ink.hair2} 0 3px, transparent 3px 7px)`
          : chosen
            ? ink.brassGround
            : ink.hair,
        border: `${last - first < 3 ? 0 : 1}px solid ${chosen ? ink.brass : guarded ? ink.coral : ink.ground}`,
        borderRightWidth: last === first ? 0 : 1,
        cursor: "grab",
        opacity: lifted ? 0.45 : 1,
      }}
    >
      {last - first > 20 ? fixture.number : ""}
    </button>
  );
});
