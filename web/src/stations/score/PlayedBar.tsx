import { Box } from "@mui/material";
import { useEffect, useMemo, useRef } from "react";
import type { WholeShow } from "../../api/client";
import { eachFrame, say } from "../../canvas/eachFrame";
import { paintWall, type Wall, wallsOf } from "../../canvas/wallPainter";
import { HEAD, type Line, type Score, xOf } from "../../model/staff";
import { useLive, watchCells } from "../../stores/live";
import { cells } from "../../stores/pictures";
import { ink, mono } from "../../theme/tokens";

interface BarProps {
  show: WholeShow;
  score: Score;
  line: Line;
  stave: number;
  height: number;
  beat: number;
}

const EVERY_MS = 66;
const EDGE = 2;

/** The bar being played: a window onto what is sent, stave by stave, with a needle at the beat. */
export function PlayedBar({ show, score, line, stave, height, beat }: BarProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const needle = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only these say where cells lie
  const walls = useMemo(
    () => wallsOfStaves(show, score),
    [show.fixtures, show.matrices, show.groups, score.staves],
  );
  useEffect(() => watchCells(), []);
  const bar = Math.floor(beat / score.bar_beats);
  const left = xOf(line, bar * score.bar_beats);
  const width = xOf(line, Math.min((bar + 1) * score.bar_beats, line.last)) - left;
  useEffect(() => {
    let drawn = 0;
    const draw = (at: number) => {
      const { engine, engineAt } = useLive.getState();
      const told = engine?.state.scores.find((one) => one.of === score.id);
      if (told && needle.current) {
        const still = told.holds || engine?.state.held;
        const since = still
          ? 0
          : ((performance.now() - engineAt) / 60_000) * (engine?.state.bpm ?? 0) * told.speed;
        const inBar = Math.min(told.beat + since - bar * score.bar_beats, score.bar_beats);
        needle.current.style.transform = `translateX(${(Math.max(inBar, 0) / score.bar_beats) * width}px)`;
        say(needle.current, String(Math.min(Math.floor(Math.max(inBar, 0)) + 1, score.bar_beats)));
      }
      const target = canvas.current;
      const context = target?.getContext("2d");
      if (!target || !context || at - drawn < EVERY_MS) return;
      drawn = at;
      const ratio = window.devicePixelRatio;
      const [wide, tall] = [target.clientWidth, target.clientHeight];
      if (target.width !== wide * ratio || target.height !== tall * ratio) {
        target.width = wide * ratio;
        target.height = tall * ratio;
      }
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      context.clearRect(0, 0, wide, tall);
      walls.forEach((wall, n) => {
        if (wall) paintWall(context, wall, cells.rgb, { x: 3, y: n * stave + 3, w: wide - 6, h: stave - 6 });
      });
    };
    return eachFrame(draw);
  }, [walls, stave, width, bar, score]);
  return (
    <Box
      sx={{
        position: "absolute",
        left: left - EDGE,
        top: 2,
        width: width + EDGE * 2,
        height: height - 4,
        border: `${EDGE}px solid ${ink.brass}`,
        borderRadius: "3px",
        background: ink.ground,
        pointerEvents: "none",
      }}
    >
      <Box sx={{ height: HEAD - 4, px: 0.5, font: `500 13px ${mono}`, color: ink.brass }}>{bar + 1}</Box>
      <Box
        ref={needle}
        sx={{
          position: "absolute",
          left: -9,
          top: -2,
          width: 18,
          textAlign: "center",
          font: `500 12px ${mono}`,
          lineHeight: "16px",
          background: ink.brass,
          color: ink.ground,
          borderRadius: "2px",
        }}
      />
      <canvas
        ref={canvas}
        role="img"
        aria-label="What is sent now, stave by stave"
        data-live
        style={{ width: "100%", height: score.staves.length * stave, display: "block" }}
      />
      <Box sx={{ px: 0.75, fontSize: 11.5, lineHeight: "13px", color: ink.sea, whiteSpace: "nowrap" }}>
        sent
      </Box>
    </Box>
  );
}

/** For each stave the matrix that has most of its group's cells, with only those on it; or all of them in a row. */
function wallsOfStaves(show: WholeShow, score: Score): (Wall | null)[] {
  const first = new Map<string, [number, number]>();
  let count = 0;
  for (const one of show.fixtures) {
    first.set(one.id, [count, one.cells]);
    count += one.cells;
  }
  const walls = wallsOf(show);
  return score.staves.map((stave) => {
    const group = show.groups.find((one) => one.id === stave.group);
    if (!group) return null;
    const own = new Set<number>();
    for (const id of group.fixtures) {
      const [from, many] = first.get(id) ?? [0, 0];
      for (let n = 0; n < many; n++) own.add(from + n);
    }
    let best: Wall | null = null;
    let most = 0;
    for (const wall of walls) {
      const here = wall.cells.reduce((sum, cell) => sum + (own.has(cell) ? 1 : 0), 0);
      if (here > most) [best, most] = [wall, here];
    }
    if (best && most * 2 > own.size) return cropped(best, own);
    return own.size ? { width: own.size, height: 1, cells: Int32Array.from(own) } : null;
  });
}

/** The part of a wall that some cells lie in. */
function cropped(wall: Wall, own: Set<number>): Wall {
  const places = [...wall.cells.keys()].filter((at) => own.has(wall.cells[at] ?? -1));
  const xs = places.map((at) => at % wall.width);
  const ys = places.map((at) => Math.floor(at / wall.width));
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [width, height] = [Math.max(...xs) - left + 1, Math.max(...ys) - top + 1];
  const cells = new Int32Array(width * height).fill(-1);
  places.forEach((at, n) => {
    cells[((ys[n] ?? 0) - top) * width + (xs[n] ?? 0) - left] = wall.cells[at] ?? -1;
  });
  return { width, height, cells };
}
