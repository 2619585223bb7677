import { Box } from "@mui/material";
import { memo } from "react";
import type { FixtureView, WholeShow } from "../../api/client";
import { Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import type { Modified } from "../../model/choosing";
import { ink } from "../../theme/tokens";
import { AddressField, NameField, NumberField, usePatch } from "./fixtureCells";
import { LampShape } from "./LampShape";

export const ROW = 32;
export const COLUMNS =
  "52px minmax(110px,1.1fr) minmax(130px,1.2fr) 40px 44px 82px 66px minmax(96px,0.9fr) minmax(70px,0.8fr)";

interface RowProps {
  /** Its place in the table, from 1. */
  index: number;
  fixture: FixtureView;
  /** What of it is chosen, where it is not chosen whole. */
  part: string | undefined;
  profile: string;
  /** What its cells are called, where its profile names them. */
  names: string;
  y: number;
  chosen: boolean;
  onChoose: (id: string, event: Modified) => void;
  show: WholeShow;
}

/** Drawn again only where something of it is new: an edit of one fixture in 2,000 draws one row. */
export const FixtureRow = memo(
  PlainRow,
  (a, b) =>
    a.fixture === b.fixture &&
    a.part === b.part &&
    a.profile === b.profile &&
    a.names === b.names &&
    a.y === b.y &&
    a.index === b.index &&
    a.chosen === b.chosen &&
    a.show.matrices === b.show.matrices,
);

function PlainRow({ index, fixture, part, profile, names, y, chosen, onChoose, show }: RowProps) {
  const patch = usePatch(fixture);
  return (
    <Box
      role="row"
      aria-rowindex={index}
      aria-selected={chosen}
      onClick={(event) => onChoose(fixture.id, event)}
      sx={{
        position: "absolute",
        top: y,
        left: 0,
        right: 0,
        height: ROW,
        px: 2,
        display: "grid",
        gridTemplateColumns: COLUMNS,
        columnGap: 1,
        alignItems: "center",
        whiteSpace: "nowrap",
        borderBottom: `1px solid ${ink.hair}`,
        background: chosen ? ink.brassGround : "none",
        boxShadow: chosen ? `inset 3px 0 ${ink.brass}` : "none",
        "&:hover": { background: chosen ? ink.brassGround : ink.row },
        "& > *": { minWidth: 0, overflow: "hidden", textOverflow: "ellipsis" },
        "& > .typed": { overflow: "visible", ml: -0.75 },
      }}
    >
      <div role="gridcell" className="typed">
        <NumberField fixture={fixture} />
      </div>
      <div role="gridcell" className="typed">
        <NameField fixture={fixture} />
      </div>
      <Box role="gridcell" sx={{ color: ink.soft }} title={`${profile}, ${fixture.mode}`}>
        {profile}, <Num style={{ color: ink.text }}>{fixture.mode}</Num>
      </Box>
      <Num role="gridcell">{fixture.footprint}</Num>
      <Num role="gridcell" title={names} style={part ? { color: ink.brass } : undefined}>
        {part ? `${part}${part.endsWith("of") ? ` ${fixture.cells}` : ""}` : fixture.cells}
      </Num>
      <div role="gridcell" className="typed">
        <AddressField fixture={fixture} />
      </div>
      <Box role="gridcell" sx={{ color: fixture.conflict.length ? ink.brass : ink.soft }}>
        {fixture.conflict.length ? (
          `meets ${fixture.conflict[0]}`
        ) : (
          <Num>{fixture.end.replace(/^U\d+/, "")}</Num>
        )}
      </Box>
      <div role="gridcell" className="typed">
        {fixture.blocks.length > 1 && (
          <Typed
            quiet
            label={`Blocks of ${fixture.number}`}
            value={fixture.lies}
            placeholder="one after another"
            onCommit={(lies) => patch({ lies })}
          />
        )}
      </div>
      <div role="gridcell">
        <LampShape fixture={fixture} show={show} />
      </div>
    </Box>
  );
}
