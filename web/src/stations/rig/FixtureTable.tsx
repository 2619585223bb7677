import { Box } from "@mui/material";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useMemo, useRef } from "react";
import type { ProfileView, WholeShow } from "../../api/client";
import { Scroll } from "../../components/atoms";
import { chooseFixtures, useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { COLUMNS, FixtureRow, type Modified, ROW } from "./FixtureRow";

/** The head of the table covers so much of its top, px. */
const HEAD = 22;
const HEADS = ["No.", "Name", "Profile, mode", "Ch", "Cells", "Address", "to", "Blocks", "Sent"];

/** All fixtures in rows of 32 px; only those in view are drawn, so thousands scroll. */
export function FixtureTable({ show }: { show: WholeShow }) {
  const chosen = useView((view) => view.fixtures);
  const box = useRef<HTMLDivElement>(null);
  const { fixtures } = show;
  const rows = useVirtualizer({
    count: fixtures.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 6,
    scrollMargin: HEAD,
    scrollPaddingStart: HEAD,
  });
  const profiles = useMemo(() => new Map(show.profiles.map((p) => [p.id, p])), [show.profiles]);
  const parts = useView((view) => view.parts);
  const counted = useMemo(() => partsOf(parts), [parts]);

  const listed = useRef(fixtures);
  listed.current = fixtures;
  // The same function for every drawing, so that rows that did not change are not drawn again.
  const choose = useCallback((id: string, event: Modified) => {
    const before = useView.getState().fixtures;
    const at = listed.current.findIndex((f) => f.id === id);
    const last = listed.current.findIndex((f) => f.id === before.at(-1));
    let next = [id];
    if (event.shiftKey && last >= 0)
      next = listed.current.slice(Math.min(at, last), Math.max(at, last) + 1).map((f) => f.id);
    else if (event.ctrlKey || event.metaKey)
      next = before.includes(id) ? before.filter((one) => one !== id) : [...before, id];
    chooseFixtures(next);
  }, []);

  const onKey = (event: React.KeyboardEvent) => {
    if ((event.target as HTMLElement).tagName === "INPUT") return;
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    const at = fixtures.findIndex((f) => f.id === chosen.at(-1));
    const next = fixtures[Math.min(fixtures.length - 1, Math.max(0, at + step))];
    if (!next) return;
    chooseFixtures(event.shiftKey ? [...new Set([...chosen, next.id])] : [next.id]);
  };

  // Whatever was chosen, by arrows, by typing or by adding it, comes into view.
  const last = fixtures.findIndex((f) => f.id === chosen.at(-1));
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another row moves the view
  useEffect(() => {
    if (last >= 0) rows.scrollToIndex(last);
  }, [last]);

  return (
    <Scroll
      ref={box}
      onKeyDown={onKey}
      tabIndex={0}
      role="grid"
      aria-label="Fixtures"
      aria-rowcount={fixtures.length + 1}
      aria-colcount={HEADS.length}
    >
      <Box
        role="row"
        aria-rowindex={1}
        sx={{
          display: "grid",
          gridTemplateColumns: COLUMNS,
          px: 2,
          position: "sticky",
          top: 0,
          zIndex: 1,
          background: ink.ground,
          fontSize: 12,
          color: ink.soft,
          borderBottom: `1px solid ${ink.hair}`,
          pb: 0.5,
          columnGap: 1,
        }}
      >
        {HEADS.map((head) => (
          <span key={head} role="columnheader">
            {head}
          </span>
        ))}
      </Box>
      <div role="rowgroup" style={{ height: rows.getTotalSize(), position: "relative" }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const fixture = fixtures[index];
          if (!fixture) return null;
          return (
            <FixtureRow
              key={fixture.id}
              index={index + 2}
              fixture={fixture}
              profile={profiles.get(fixture.profile)?.name ?? "no profile"}
              names={namesOf(profiles.get(fixture.profile), fixture.mode)}
              y={start - HEAD}
              chosen={chosen.includes(fixture.id)}
              part={counted.get(fixture.id)}
              onChoose={choose}
              show={show}
            />
          );
        })}
      </div>
    </Scroll>
  );
}

/** Of fixtures that are not chosen whole: what of them is. */
function partsOf(parts: string[]): Map<string, string> {
  const cells = new Map<string, string[]>();
  for (const part of parts) {
    const [id = "", cell = ""] = part.split(":");
    cells.set(id, [...(cells.get(id) ?? []), cell]);
  }
  return new Map(
    [...cells].map(([id, list]) => {
      const own = list.filter((cell) => cell !== "0");
      if (!own.length) return [id, "shared"];
      return [id, list.length > own.length ? `0+${own.length}` : `${own.length} of`];
    }),
  );
}

/** "1 par left, 3 strobe": at most so many names. */
const NAMES = 24;

function namesOf(profile: ProfileView | undefined, mode: string): string {
  const blocks = profile?.modes.find((one) => one.name === mode)?.blocks ?? [];
  const named: string[] = [];
  let cell = 0;
  for (const block of blocks)
    for (let n = 0; n < block.cells; n++) {
      cell++;
      const name = block.names[n];
      if (name) named.push(`${cell} ${name}`);
    }
  return named.slice(0, NAMES).join(", ") + (named.length > NAMES ? " ..." : "");
}
