import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useMemo, useRef } from "react";
import type { ProfileView, WholeShow } from "../../api/client";
import { Scroll } from "../../components/atoms";
import { GridHead } from "../../components/GridHead";
import { chosenBy, chosenByArrow, type Modified } from "../../model/choosing";
import { chooseFixtures, useView } from "../../stores/view";
import { COLUMNS, FixtureRow, ROW } from "./FixtureRow";
import { partsOf } from "./partsOf";

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
    chooseFixtures(chosenBy(listed.current, useView.getState().fixtures, id, event));
  }, []);

  const onKey = (event: React.KeyboardEvent) => {
    if ((event.target as HTMLElement).tagName === "INPUT") return;
    const next = chosenByArrow(fixtures, chosen, event);
    if (!next) return;
    event.preventDefault();
    chooseFixtures(next);
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
      <GridHead heads={HEADS} columns={COLUMNS} />
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
