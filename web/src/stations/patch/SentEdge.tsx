import { useEffect, useRef } from "react";
import { eachFrame } from "../../canvas/eachFrame";
import { watchCells } from "../../stores/live";
import { cells, latest } from "../../stores/pictures";
import { inkNow } from "../../theme/tokens";
import type { CellOnRuler } from "./universes";

/** Pictures that go by for each one drawn: an edge is glanced at. */
const EVERY = 3;
const HEIGHT = 4;

/** What is sent now, at the lower edge of what lies on a ruler: each cell in its colour, a pixel a channel. */
export function SentEdge({ cellsHere }: { cellsHere: CellOnRuler[] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext("2d");
    if (!element || !context || !cellsHere.length) return;
    let [turn, seen] = [0, -1];
    let stop: (() => void) | null = null;
    let rest: (() => void) | null = null;
    const draw = () => {
      turn = (turn + 1) % EVERY;
      if (turn || latest.frame.number === seen || !cells.rgb.length) return;
      seen = latest.frame.number;
      context.fillStyle = inkNow("lamp");
      context.fillRect(0, 0, 512, HEIGHT);
      for (const { index, x, width } of cellsHere) {
        const at = index * 3;
        context.fillStyle = `rgb(${cells.rgb[at] ?? 0} ${cells.rgb[at + 1] ?? 0} ${cells.rgb[at + 2] ?? 0})`;
        context.fillRect(x, 0, width, HEIGHT);
      }
    };
    // Rulers out of sight draw nothing.
    const sight = new IntersectionObserver(([entry]) => {
      rest?.();
      rest = entry?.isIntersecting ? eachFrame(draw) : null;
      if (rest) stop ??= watchCells();
      else {
        stop?.();
        stop = null;
      }
    });
    sight.observe(element);
    return () => {
      sight.disconnect();
      rest?.();
      stop?.();
    };
  }, [cellsHere]);
  if (!cellsHere.length) return null;
  return (
    <canvas
      data-live
      ref={canvas}
      width={512}
      height={HEIGHT}
      role="img"
      aria-label="As sent"
      style={{ position: "absolute", left: 0, bottom: 0, pointerEvents: "none" }}
    />
  );
}
