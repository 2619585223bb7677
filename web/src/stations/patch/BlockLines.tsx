import { useLayoutEffect, useRef, useState } from "react";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import type { Universe } from "./universes";

interface Line {
  key: string;
  chosen: boolean;
  path: string;
}

/** Where a ruler begins in its row: padding, the column with its numbers, the gap. */
const RULER_AT = { left: 16 + 112 + 8, top: 4 };
const RULER_HEIGHT = 24;
const BOW = 12;

/** Joins the blocks of a fixture that lie apart: always where a block has its own address, else for what is chosen. */
export function BlockLines({ universes }: { universes: Universe[] }) {
  const svg = useRef<SVGSVGElement>(null);
  const chosen = useView((view) => view.fixtures);
  const [lines, setLines] = useState<Line[]>([]);
  useLayoutEffect(() => {
    const space = svg.current?.parentElement;
    if (!space) return;
    const measure = () => setLines(linesOf(universes, new Set(chosen), space));
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(space);
    return () => watch.disconnect();
  }, [universes, chosen]);
  return (
    <svg
      ref={svg}
      aria-hidden="true"
      style={{ position: "absolute", inset: 0, width: "100%", height: "100%", pointerEvents: "none" }}
    >
      {lines.map((line) => (
        <path
          key={line.key}
          d={line.path}
          fill="none"
          stroke={line.chosen ? ink.brass : ink.soft}
          strokeWidth={line.chosen ? 1.8 : 1}
          strokeDasharray={line.chosen ? undefined : "2 3"}
          opacity={line.chosen ? 1 : 0.7}
        />
      ))}
    </svg>
  );
}

function linesOf(universes: Universe[], chosen: Set<string>, space: HTMLElement): Line[] {
  const pieces = new Map<string, { universe: number; middle: number; apart: boolean }[]>();
  for (const { number, fixtures } of universes)
    for (const { fixture, first, last } of fixtures) {
      const apart = fixture.blocks.some((block) => block.apart);
      if (!apart && !chosen.has(fixture.id)) continue;
      const list = pieces.get(fixture.id) ?? [];
      list.push({ universe: number, middle: (first + last) / 2 - 0.5, apart });
      pieces.set(fixture.id, list);
    }
  const from = space.getBoundingClientRect();
  if (!pieces.size) return [];
  // Rows are measured, not what is in them: that would lay out those out of sight.
  const row = (universe: number) =>
    space.querySelector<HTMLElement>(`[data-row="${universe}"]`)?.getBoundingClientRect();
  const found: Line[] = [];
  for (const [id, list] of pieces)
    for (let n = 1; n < list.length; n++) {
      const [a, b] = [list[n - 1], list[n]];
      const [above, below] = [row(a?.universe ?? 0), row(b?.universe ?? 0)];
      if (!a || !b || !above || !below) continue;
      const [x1, x2] = [RULER_AT.left + a.middle, RULER_AT.left + b.middle];
      const [y1, y2] = [
        above.top - from.top + RULER_AT.top + RULER_HEIGHT,
        below.top - from.top + RULER_AT.top,
      ];
      const path =
        a.universe === b.universe
          ? `M${x1} ${y1} C${x1} ${y1 + BOW} ${x2} ${y1 + BOW} ${x2} ${y1}`
          : `M${x1} ${y1} C${x1} ${y1 + BOW} ${x2} ${y2 - BOW} ${x2} ${y2}`;
      found.push({ key: `${id} ${n}`, chosen: chosen.has(id), path });
    }
  return found;
}
