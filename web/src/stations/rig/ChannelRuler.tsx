import { Box } from "@mui/material";
import { useEffect, useMemo, useRef } from "react";
import type { FixtureView, ProfileView } from "../../api/client";
import { eachFrame, same } from "../../canvas/eachFrame";
import { Cap, Part } from "../../components/atoms";
import { type ChannelRun, channelRuns, letterOf, runPosition } from "../../model/channels";
import { useIsSent } from "../../stores/live";
import { levels } from "../../stores/pictures";
import { ink, inkNow, mono, themeNow } from "../../theme/tokens";

const WIDTH = 320;
const ROW = 44;
const SLOT = 14;
const GAP = 8;
/** Beyond so many channels a ruler of letters would be a wall: they stand narrower and without them. */
const LETTERED = 96;

interface RulerProps {
  fixture: FixtureView;
  profile: ProfileView | undefined;
}

interface Place {
  run: ChannelRun;
  /** Absolute 0-based position of its first channel. */
  position: number;
  x: number;
  y: number;
}

/** Cells in lines, as many as fit. */
function layOut(
  fixture: FixtureView,
  runs: ChannelRun[],
  slot: number,
  row: number,
): { places: Place[]; height: number } {
  const places: Place[] = [];
  let [x, y] = [0, 0];
  for (const run of runs) {
    const width = run.channels.length * slot;
    if (x + width > WIDTH && x > 0) {
      x = 0;
      y += row;
    }
    places.push({ run, position: runPosition(fixture, run), x, y });
    x += width + GAP;
  }
  return { places, height: y + row };
}

/** The channels of the fixture as sent: a letter and a fill as high as the value, cell by cell. */
export function ChannelRuler({ fixture, profile }: RulerProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const lettered = fixture.footprint <= LETTERED;
  const slot = lettered ? SLOT : 11;
  const row = lettered ? ROW : 30;
  const { places, height } = useMemo(
    () => layOut(fixture, channelRuns(fixture, profile), slot, row),
    [fixture, profile, slot, row],
  );
  const sent = useIsSent(fixture.spans[0]?.[0] ?? 0);
  const universes = fixture.spans.map(([universe]) => `U${universe}`).join(", ");
  useEffect(() => {
    let seen: unknown[] = [];
    const universes = [...new Set(places.flatMap(({ run, position }) => spanned(position, run)))];
    const draw = () => {
      const state = [themeNow(), ...universes.map((one) => levels.get(one)?.values)];
      if (same(state, seen)) return;
      seen = state;
      const context = sized(canvas.current, height);
      if (!context) return;
      for (const place of places) drawRun(context, place, slot, lettered);
    };
    return eachFrame(draw);
  }, [places, height, slot, lettered]);
  return (
    <Part>
      <Box sx={{ display: "flex", justifyContent: "space-between", mb: 1 }}>
        <Box sx={{ fontWeight: 600 }}>Channels</Box>
        {sent ? (
          <Cap>filled as sent on {universes}</Cap>
        ) : (
          <Cap sx={{ color: ink.brass }}>{universes} goes to no output: nothing is sent</Cap>
        )}
      </Box>
      <canvas
        data-live
        ref={canvas}
        role="img"
        aria-label={`Channels of ${fixture.name} as sent`}
        style={{ width: WIDTH, height, display: "block" }}
      />
    </Part>
  );
}

/** The universes a run lies on. */
const spanned = (position: number, run: ChannelRun): number[] => [
  Math.floor(position / 512) + 1,
  Math.floor((position + run.channels.length - 1) / 512) + 1,
];

function sized(target: HTMLCanvasElement | null, height: number): CanvasRenderingContext2D | null {
  const context = target?.getContext("2d") ?? null;
  if (!target || !context) return null;
  const scale = window.devicePixelRatio;
  if (target.width !== WIDTH * scale || target.height !== height * scale) {
    target.width = WIDTH * scale;
    target.height = height * scale;
  }
  context.setTransform(scale, 0, 0, scale, 0, 0);
  context.clearRect(0, 0, WIDTH, height);
  return context;
}

function drawRun(
  context: CanvasRenderingContext2D,
  { run, position, x, y }: Place,
  slot: number,
  lettered: boolean,
): void {
  const tall = lettered ? 18 : 14;
  run.channels.forEach(({ label }, index) => {
    const at = position + index;
    const level = (levels.get(Math.floor(at / 512) + 1)?.values[at % 512] ?? 0) / 255;
    const left = x + index * slot;
    context.fillStyle = inkNow("row");
    context.fillRect(left, y, slot - 1, tall);
    context.fillStyle = inkNow("brassSoft");
    context.fillRect(left, y + tall * (1 - level), slot - 1, tall * level);
    if (!lettered) return;
    context.font = `500 11.5px ${mono}`;
    context.textAlign = "center";
    context.fillStyle = inkNow("text");
    const letter = letterOf(label, run.first + index);
    context.fillText(letter.length > 1 ? "·" : letter, left + slot / 2 - 0.5, y + 13);
  });
  context.textAlign = "left";
  context.font = `500 11.5px ${mono}`;
  context.fillStyle = inkNow("soft");
  context.fillText(lettered ? `:${run.cell}` : String(run.first), x, y + tall + 12);
}
