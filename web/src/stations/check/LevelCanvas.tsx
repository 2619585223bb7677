import { Box } from "@mui/material";
import { useEffect, useMemo, useRef } from "react";
import type { Schemas } from "../../api/client";
import { eachFrame } from "../../canvas/eachFrame";
import { channelAt, channelBeside, foldedLayout, plainLayout } from "../../canvas/levelLayout";
import { MARKS, paint } from "../../canvas/levelPainter";
import { Cap, Scroll } from "../../components/atoms";
import type { Base } from "../../model/why";
import { backLevels, useBack } from "../../stores/back";
import { levels } from "../../stores/pictures";
import { ink } from "../../theme/tokens";
import { useMarks } from "./useMarks";

export type Folding = "fixture" | "24";

interface CanvasProps {
  universe: number;
  channel: number;
  onChannel: (channel: number) => void;
  /** A click keeps the channel while the pointer goes elsewhere, to its fader for one. */
  pinned: boolean;
  onPin: () => void;
  data: Schemas["Levels"] | undefined;
  owners: Map<number, Schemas["Levels"]["owners"]>;
  folding: Folding;
  base: Base;
  /** Values in place of those that are sent: before hand and guard. */
  instead: { readonly current: Uint8Array | null };
}

/** The 512 values of a universe with their marks; the channel under the pointer or the arrows is the one asked about. */
export function LevelCanvas(props: CanvasProps) {
  const { universe, channel, pinned, data, owners, folding } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const back = useBack((one) => one.moment !== null);
  const marks = useMarks(universe);
  const layout = useMemo(
    () => (folding === "fixture" && data?.owners.length ? foldedLayout(data) : plainLayout()),
    [folding, data],
  );
  const view = useRef({ ...props, layout, back, marks });
  view.current = { ...props, layout, back, marks };

  useEffect(() => {
    const seen = { values: new Uint8Array(512), at: new Float64Array(512).fill(Number.NEGATIVE_INFINITY) };
    let first = true;
    const draw = () => {
      const { owners, channel, base, layout, back, marks, instead } = view.current;
      const values = back ? backLevels.current : (instead.current ?? levels.get(universe)?.values);
      if (values) {
        const now = performance.now();
        for (let n = 0; n < 512; n++)
          if (seen.values[n] !== values[n]) {
            seen.values[n] = values[n] ?? 0;
            if (!first) seen.at[n] = now;
          }
        first = false;
      }
      paint({ canvas: canvas.current, layout, values, owners, marks, channel, base, changed: seen.at });
    };
    return eachFrame(draw);
  }, [universe]);

  const at = (event: React.PointerEvent) => {
    if (pinned) return;
    const box = event.currentTarget.getBoundingClientRect();
    const found = channelAt(layout, event.clientX - box.left, event.clientY - box.top);
    if (found) props.onChannel(found);
  };
  const onKey = (event: React.KeyboardEvent) => {
    const next = channelBeside(layout, channel, event.key);
    if (next === null) return;
    event.preventDefault();
    props.onChannel(next);
  };
  const free = 512 - owners.size;
  return (
    <>
      <Scroll sx={{ pl: 0.5 }}>
        <canvas
          data-live
          ref={canvas}
          tabIndex={0}
          role="application"
          aria-label={`Channels of universe ${universe}`}
          onPointerMove={at}
          onClick={props.onPin}
          onKeyDown={onKey}
          style={{ width: layout.width, height: layout.height, display: "block" }}
        />
      </Scroll>
      <Box sx={{ display: "flex", gap: 2, px: 2, py: 0.5, flexWrap: "wrap" }}>
        {folding === "fixture" && data && data.owners.length > 0 && (
          <Cap>
            {free ? `${free} channels of no fixture stand at the end` : "all channels are of fixtures"}
          </Cap>
        )}
        {legendOf(marks).map(([path, says]) => (
          <Cap key={says} sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
            <svg width="7" height="7" viewBox="0 0 6 6" aria-hidden="true">
              <path d={path} fill={ink.brass} />
            </svg>
            {says}
          </Cap>
        ))}
      </Box>
    </>
  );
}

/** "2 parked", each with its sign. */
function legendOf(marks: Map<number, string>): [string, string][] {
  const counted = new Map<string, [string, number]>();
  for (const kind of marks.values()) {
    const mark = MARKS[kind];
    if (mark) counted.set(mark.says, [mark.path, (counted.get(mark.says)?.[1] ?? 0) + 1]);
  }
  return [...counted].map(([says, [path, count]]) => [path, `${count} ${says}`]);
}
