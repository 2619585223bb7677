import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useMemo, useRef } from "react";
import type { WholeShow } from "../../api/client";
import { Scroll } from "../../components/atoms";
import { GridHead } from "../../components/GridHead";
import type { Modified } from "../../model/choosing";
import { type Entry, entriesOf, numbersOf, opensFor } from "../../model/folding";
import { chooseFixtures, useView } from "../../stores/view";
import { COLUMNS, FoldedRow, ROW } from "./FoldedRow";
import { partsOf } from "./partsOf";

/** The head of the table covers so much of its top, px. */
const HEAD = 22;
const OPENER_PX = 24;
const DIGIT_PX = 8;
const HEADS = ["No.", "Name", "Profile", "Ch", "Cells", "Address", "Blocks"];

const isWhole = (entry: Entry): boolean => entry.kind === "fold" || entry.kind === "fixture";

/** The fixtures beside the plan: those that are alike in one row, which opens; one of them opens into its parts. */
export function FoldedTable({ show }: { show: WholeShow }) {
  const { fixtures } = show;
  const chosen = useView((view) => view.fixtures);
  const parts = useView((view) => view.parts);
  const opened = useView((view) => view.opened);
  const box = useRef<HTMLDivElement>(null);
  const entries = useMemo(() => entriesOf(fixtures, new Set(opened)), [fixtures, opened]);
  const counted = useMemo(() => partsOf(parts), [parts]);
  const numbers = useMemo(
    () => Math.max(0, ...entriesOf(fixtures, new Set()).map((one) => numbersOf(one.fixtures).length)),
    [fixtures],
  );
  const picked = useMemo(() => new Set(chosen), [chosen]);
  const profiles = useMemo(() => new Map(show.profiles.map((p) => [p.id, p.name])), [show.profiles]);
  const rows = useVirtualizer({
    count: entries.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 6,
    scrollMargin: HEAD,
    scrollPaddingStart: HEAD,
  });

  // Some of a row and not all: the row opens, so that it is seen which.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another choice opens one
  useEffect(() => {
    const more = opensFor(fixtures, chosen).filter((key) => !useView.getState().opened.includes(key));
    if (more.length) useView.setState(({ opened: before }) => ({ opened: [...before, ...more] }));
  }, [chosen]);

  const listed = useRef({ fixtures, entries });
  listed.current = { fixtures, entries };
  const choose = useCallback((entry: Entry, event: Modified) => {
    const fixture = entry.fixtures[0];
    if (fixture && !isWhole(entry))
      return choosePart(fixture.id, entry.kind === "shared" ? 0 : fixture.cells);
    chooseFixtures(chosenOf(listed.current.fixtures, useView.getState().fixtures, entry, event));
  }, []);
  const cell = useCallback((id: string, number: number, event: Modified) => {
    const part = `${id}:${number}`;
    const { parts: before, fixtures: had } = useView.getState();
    const more = event.ctrlKey || event.metaKey || event.shiftKey;
    const next = !more
      ? [part]
      : before.includes(part)
        ? before.filter((one) => one !== part)
        : [...before, part];
    useView.setState({ fixtures: more ? [...new Set([...had, id])] : [id], parts: next, emitter: "" });
  }, []);

  const at = placeOf(entries, chosen);
  const onKey = (event: React.KeyboardEvent) => {
    if ((event.target as HTMLElement).tagName === "INPUT") return;
    const here = entries[at];
    if (here && event.key === "ArrowRight" && !here.open) toggle(here.key);
    else if (here && event.key === "ArrowLeft") close(entries, at);
    else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      const next = stepped(entries, at, event.key === "ArrowDown" ? 1 : -1);
      if (next) {
        const ids = next.fixtures.map((one) => one.id);
        chooseFixtures(event.shiftKey ? [...new Set([...chosen, ...ids])] : ids);
      }
    } else return;
    event.preventDefault();
  };

  // Whatever was chosen, by arrows, by typing or by adding it, comes into view.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another choice moves the view
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at);
  }, [chosen.at(-1)]);

  return (
    <Scroll
      ref={box}
      style={{ "--numbers": `${OPENER_PX + numbers * DIGIT_PX}px` } as React.CSSProperties}
      onKeyDown={onKey}
      tabIndex={0}
      role="grid"
      aria-label="Fixtures"
      aria-rowcount={entries.length + 1}
      aria-colcount={HEADS.length}
    >
      <GridHead
        heads={HEADS}
        columns={COLUMNS}
        sx={{
          px: 1.5,
          columnGap: 0.75,
          whiteSpace: "nowrap",
          "& > :first-of-type": { pl: 2.25 },
          "& > :nth-of-type(4), & > :nth-of-type(5)": { textAlign: "right" },
        }}
      />
      <div role="rowgroup" style={{ height: rows.getTotalSize(), position: "relative" }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const entry = entries[index];
          const first = entry?.fixtures[0];
          if (!entry || !first) return null;
          return (
            <FoldedRow
              key={entry.key}
              index={index + 2}
              entry={entry}
              profile={profiles.get(first.profile) ?? "no profile"}
              y={start - HEAD}
              chosen={chosenIn(entry, picked, parts)}
              part={counted.get(first.id)}
              show={show}
              onChoose={choose}
              onOpen={toggle}
              onCell={cell}
            />
          );
        })}
      </div>
    </Scroll>
  );
}

function toggle(key: string): void {
  useView.setState(({ opened }) => ({
    opened: opened.includes(key) ? opened.filter((one) => one !== key) : [...opened, key],
  }));
}

/** Closes what is open at a row; else the fold that it lies in, which is chosen then. */
function close(entries: Entry[], at: number): void {
  const here = entries[at];
  if (!here) return;
  if (here.open) {
    toggle(here.key);
    return;
  }
  const fold = entries
    .slice(0, at)
    .findLast((one) => one.kind === "fold" && one.fixtures.includes(here.fixtures[0] as never));
  if (!fold) return;
  chooseFixtures(fold.fixtures.map((one) => one.id));
  toggle(fold.key);
}

/** The row at which what is chosen stands: a fold that is chosen whole, or else that of the last fixture. */
function placeOf(entries: Entry[], chosen: string[]): number {
  const holds = (one: Entry) => isWhole(one) && one.fixtures.some((own) => own.id === chosen.at(-1));
  const first = entries.findIndex(holds);
  if (entries[first]?.kind === "fold" && entries[first].fixtures.length === chosen.length) return first;
  return entries.findLastIndex(holds);
}

/** The next row up or down that stands for fixtures. */
function stepped(entries: Entry[], at: number, step: number): Entry | undefined {
  let next = at + step;
  while (entries[next] && !isWhole(entries[next] as Entry)) next += step;
  return entries[next];
}

/** The shared part, or all cells, of one fixture. */
function choosePart(id: string, cells: number): void {
  const parts = cells ? Array.from({ length: cells }, (_, n) => `${id}:${n + 1}`) : [`${id}:0`];
  useView.setState({ fixtures: [id], parts, emitter: "" });
}

function chosenIn(entry: Entry, picked: Set<string>, parts: string[]): "all" | "some" | "none" {
  const count = entry.fixtures.filter((one) => picked.has(one.id)).length;
  if (!count) return "none";
  if (isWhole(entry)) return count === entry.fixtures.length ? "all" : "some";
  const own = parts.filter((one) => one.startsWith(`${entry.fixtures[0]?.id}:`));
  if (!own.length) return "all";
  const shared = own.some((one) => one.endsWith(":0"));
  return (entry.kind === "shared" ? shared : own.length > (shared ? 1 : 0)) ? "all" : "none";
}

/** What is chosen after a click on a row: it alone, with Shift all from the last, with Ctrl it more or less. */
function chosenOf(
  fixtures: readonly { id: string }[],
  before: string[],
  entry: Entry,
  event: Modified,
): string[] {
  const ids = entry.fixtures.map((one) => one.id);
  const last = fixtures.findIndex((one) => one.id === before.at(-1));
  if (event.shiftKey && last >= 0) {
    const first = fixtures.findIndex((one) => one.id === ids[0]);
    const range = fixtures.slice(Math.min(first, last), Math.max(first + ids.length - 1, last) + 1);
    return range.map((one) => one.id);
  }
  if (!event.ctrlKey && !event.metaKey) return ids;
  const all = ids.every((one) => before.includes(one));
  return all ? before.filter((one) => !ids.includes(one)) : [...new Set([...before, ...ids])];
}
