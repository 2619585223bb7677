import { Box, ButtonBase } from "@mui/material";
import { memo, type ReactNode } from "react";
import type { FixtureView, WholeShow } from "../../api/client";
import { Num } from "../../components/atoms";
import type { Modified } from "../../model/choosing";
import { type Entry, namesOf, numbersOf } from "../../model/folding";
import { addressOf, cellPosition } from "../../model/placements";
import { ink } from "../../theme/tokens";
import { BlockMarks } from "./BlockMarks";
import { AddressField, NameField, NumberField } from "./fixtureCells";
import { LampShape } from "./LampShape";

export const ROW = 32;
/** The first column is as wide as the longest numbers in it: `--numbers`. */
export const COLUMNS = "var(--numbers) minmax(94px,1fr) minmax(70px,1.05fr) 30px 38px 62px 44px";

interface RowProps {
  /** Its place in the table, from 1. */
  index: number;
  entry: Entry;
  profile: string;
  y: number;
  chosen: "all" | "some" | "none";
  /** What of it is chosen, where it is not chosen whole. */
  part: string | undefined;
  show: WholeShow;
  onChoose: (entry: Entry, event: Modified) => void;
  onOpen: (key: string) => void;
  onCell: (fixture: string, cell: number, event: Modified) => void;
}

/** One row of the folded table; drawn again only where something of it is new. */
export const FoldedRow = memo(
  PlainRow,
  (a, b) =>
    a.entry.kind === b.entry.kind &&
    a.entry.open === b.entry.open &&
    a.entry.fixtures.length === b.entry.fixtures.length &&
    a.entry.fixtures.every((one, n) => one === b.entry.fixtures[n]) &&
    a.profile === b.profile &&
    a.y === b.y &&
    a.index === b.index &&
    a.chosen === b.chosen &&
    a.part === b.part,
);

function PlainRow(props: RowProps) {
  const { index, entry, y, chosen, onChoose } = props;
  return (
    <Box
      role="row"
      aria-rowindex={index}
      aria-selected={chosen === "all"}
      onClick={(event) => onChoose(entry, event)}
      sx={{
        position: "absolute",
        top: y,
        left: 0,
        right: 0,
        height: ROW,
        px: 1.5,
        display: "grid",
        gridTemplateColumns: COLUMNS,
        columnGap: 0.75,
        alignItems: "center",
        whiteSpace: "nowrap",
        fontSize: 13,
        borderBottom: `1px solid ${ink.hair}`,
        background: chosen === "all" ? ink.brassGround : "none",
        boxShadow: chosen === "none" ? "none" : `inset 3px 0 ${ink.brass}`,
        "&:hover": { background: chosen === "all" ? ink.brassGround : ink.row },
        "& > *": { minWidth: 0, overflow: "hidden", textOverflow: "ellipsis" },
        "& > .typed": { overflow: "visible" },
      }}
    >
      {entry.kind === "fold" && <FoldCells {...props} />}
      {entry.kind === "fixture" && <FixtureCells {...props} />}
      {entry.kind === "shared" && <SharedCells {...props} />}
      {entry.kind === "cells" && <CellCells {...props} />}
    </Box>
  );
}

function FoldCells({ entry, profile, onOpen }: RowProps) {
  const first = entry.fixtures[0];
  if (!first) return null;
  const cells = entry.fixtures.reduce((sum, one) => sum + one.cells, 0);
  const met = entry.fixtures.find((one) => one.conflict.length);
  return (
    <>
      <Box role="gridcell" sx={{ display: "flex", alignItems: "center" }}>
        <Opener entry={entry} of={namesOf(entry.fixtures)} onOpen={onOpen} />
        <Num style={{ fontWeight: 600 }}>{numbersOf(entry.fixtures)}</Num>
      </Box>
      <Box role="gridcell" title={namesOf(entry.fixtures)}>
        {namesOf(entry.fixtures)}
      </Box>
      <Profile profile={profile} fixture={first} />
      <Num role="gridcell" style={{ textAlign: "right" }}>
        {cells}
      </Num>
      <Box role="gridcell" sx={{ color: met ? ink.brass : "inherit" }}>
        {met ? `${met.number} meets` : <Num>{first.address || "no address"}</Num>}
      </Box>
      <div role="gridcell">
        <BlockMarks fixture={first} />
      </div>
    </>
  );
}

function FixtureCells({ entry, profile, part, onOpen }: RowProps) {
  const fixture = entry.fixtures[0];
  if (!fixture) return null;
  return (
    <>
      <Box role="gridcell" className="typed" sx={{ display: "flex", alignItems: "center" }}>
        <Opener entry={entry} of={fixture.name} onOpen={onOpen} />
        <Box sx={{ ml: -0.75, flex: 1, minWidth: 0 }}>
          <NumberField fixture={fixture} />
        </Box>
      </Box>
      <Box role="gridcell" className="typed" sx={{ ml: -0.75 }}>
        <NameField fixture={fixture} />
      </Box>
      <Profile profile={profile} fixture={fixture} />
      <Num role="gridcell" style={{ textAlign: "right", color: part ? ink.brass : undefined }}>
        {part?.replace(" of", `/${fixture.cells}`) ?? fixture.cells}
      </Num>
      <Box
        role="gridcell"
        className="typed"
        title={fixture.conflict.length ? `shares channels with ${fixture.conflict.join(", ")}` : undefined}
        sx={{ ml: -0.75, ...(fixture.conflict.length ? { "& input": { color: ink.brass } } : {}) }}
      >
        <AddressField fixture={fixture} />
      </Box>
      <div role="gridcell">
        <BlockMarks fixture={fixture} />
      </div>
    </>
  );
}

function SharedCells({ entry }: RowProps) {
  const fixture = entry.fixtures[0];
  const block = fixture?.blocks.find((one) => one.shared > 0);
  if (!fixture || !block) return null;
  const count = fixture.blocks.reduce((sum, one) => sum + one.shared, 0);
  return (
    <PartCells
      number={`${fixture.number}:0`}
      says={`what all cells share: ${count} ${count === 1 ? "channel" : "channels"}`}
      address={block.address}
    />
  );
}

function CellCells({ entry, show, onCell }: RowProps) {
  const fixture = entry.fixtures[0];
  if (!fixture) return null;
  return (
    <PartCells
      number={`${fixture.number}:1${fixture.cells > 1 ? `-${fixture.cells}` : ""}`}
      says={
        <LampShape
          fixture={fixture}
          show={show}
          height={28}
          onCell={(cell, event) => {
            event.stopPropagation();
            onCell(fixture.id, cell, event);
          }}
        />
      }
      address={addressOf(cellPosition(fixture, 1))}
    />
  );
}

function PartCells({ number, says, address }: { number: string; says: ReactNode; address: string }) {
  return (
    <>
      <Num role="gridcell" style={{ color: ink.soft, paddingLeft: 12 }}>
        {number}
      </Num>
      <Box role="gridcell" aria-colspan={4} sx={{ gridColumn: "span 4", color: ink.soft }}>
        {says}
      </Box>
      <Num role="gridcell" style={{ color: ink.soft }}>
        {address}
      </Num>
      <span role="gridcell" />
    </>
  );
}

function Profile({ profile, fixture }: { profile: string; fixture: FixtureView }) {
  return (
    <>
      <Box role="gridcell" sx={{ color: ink.soft }} title={`${profile}, ${fixture.mode}`}>
        {profile}
      </Box>
      <Num role="gridcell" style={{ textAlign: "right" }}>
        {fixture.footprint}
      </Num>
    </>
  );
}

function Opener({ entry, of, onOpen }: { entry: Entry; of: string; onOpen: (key: string) => void }) {
  return (
    <ButtonBase
      aria-label={`${entry.open ? "Close" : "Open"} ${of}`}
      aria-expanded={entry.open}
      tabIndex={-1}
      onClick={(event) => {
        event.stopPropagation();
        onOpen(entry.key);
      }}
      sx={{ width: 24, height: 28, ml: -0.75, mr: -0.25, flex: "none", color: ink.soft }}
    >
      <svg width="9" height="9" viewBox="0 0 9 9" aria-hidden="true">
        <path d={entry.open ? "M0 2h9L4.5 7.5Z" : "M2 0v9l5.5-4.5Z"} fill="currentColor" />
      </svg>
    </ButtonBase>
  );
}
