import { type PointerEvent, useState } from "react";
import { clamp, round } from "../../model/values";
import { ink } from "../../theme/tokens";
import type { Threads } from "./RibbonChart";
import type { Ribbon } from "./RibbonControl";

/** Where a thread's value lies: 255 at the top, 0 at the bottom of the drawing. */
const [TOP, BOTTOM] = [8, 96];
const y = (value: number) => BOTTOM - (value / 255) * (BOTTOM - TOP);
export const levelAt = (at: number) => clamp(Math.round(((BOTTOM - at) / (BOTTOM - TOP)) * 255), 0, 255);

/** Each thread in the light it stands for. */
const LIGHT: Record<string, string> = {
  red: "rgb(255 70 60)",
  green: "rgb(70 220 90)",
  blue: "rgb(90 130 255)",
};

interface ThreadsProps {
  ribbon: Ribbon;
  /** By emitter, values evenly along the ribbon where it departs. */
  values: Record<string, (number | null)[]>;
  x: (at: number) => number;
  timeAt: (event: { clientX: number }) => number;
  valueAt: (event: { clientY: number }) => number;
  onThreads: (threads: Threads) => unknown;
}

/** Threads: where one emitter leaves the ribbon and comes back to it. Their points are dragged in time and in value. */
export function RibbonThreads({ ribbon, values, x, timeAt, valueAt, onThreads }: ThreadsProps) {
  const [dragged, setDragged] = useState<{
    emitter: string;
    point: number;
    at: number;
    value: number;
  } | null>(null);
  const length = ribbon.length.value;
  const threads = ribbon.threads as Threads;
  const put = (emitter: string, point: number, at: number, value: number) => {
    const points = threads[emitter] ?? [];
    const low = (points[point - 1]?.[0] ?? -1) + 0.01;
    const high = (points[point + 1]?.[0] ?? length + 1) - 0.01;
    const there: [number, number] = [
      round(clamp(at, Math.max(low, 0), Math.min(high, length)), 2),
      clamp(Math.round(value), 0, 255),
    ];
    return onThreads({ ...threads, [emitter]: points.map((one, n) => (n === point ? there : one)) });
  };
  return (
    <>
      {Object.entries(values).map(([emitter, along]) => (
        <path
          key={emitter}
          data-thread={emitter}
          d={drawn(along, length, x)}
          fill="none"
          stroke={LIGHT[emitter]}
          strokeWidth="2"
        />
      ))}
      {Object.entries(threads).flatMap(([emitter, points]) =>
        points.map(([at, value], n) => {
          const moved = dragged?.emitter === emitter && dragged.point === n ? dragged : { at, value };
          return (
            <circle
              // biome-ignore lint/suspicious/noArrayIndexKey: points have no name but their place
              key={`${emitter} ${n}`}
              tabIndex={0}
              role="slider"
              aria-label={`Point ${n + 1} of ${emitter}`}
              aria-valuenow={moved.value}
              aria-valuetext={`${moved.value} at ${round(moved.at, 2)}`}
              cx={x(moved.at)}
              cy={y(moved.value)}
              r="6"
              fill={ink.ground}
              stroke={LIGHT[emitter]}
              strokeWidth="2.5"
              style={{ cursor: "move" }}
              onPointerDown={(event: PointerEvent<SVGCircleElement>) => {
                event.stopPropagation();
                event.currentTarget.setPointerCapture(event.pointerId);
                setDragged({ emitter, point: n, at, value });
              }}
              onPointerMove={(event) =>
                dragged?.emitter === emitter &&
                dragged.point === n &&
                setDragged({ ...dragged, at: round(timeAt(event), 2), value: valueAt(event) })
              }
              onPointerUp={() => {
                if (dragged && (dragged.at !== at || dragged.value !== value))
                  void put(emitter, n, dragged.at, dragged.value);
                setDragged(null);
              }}
              onPointerCancel={() => setDragged(null)}
              onKeyDown={(event) => {
                const by = event.shiftKey ? 10 : 1;
                if (event.key === "ArrowLeft") void put(emitter, n, at - 0.1 * by, value);
                else if (event.key === "ArrowRight") void put(emitter, n, at + 0.1 * by, value);
                else if (event.key === "ArrowUp") void put(emitter, n, at, value + by);
                else if (event.key === "ArrowDown") void put(emitter, n, at, value - by);
                else if (event.key === "Delete")
                  void onThreads({ ...threads, [emitter]: points.filter((_, other) => other !== n) });
                else return;
                event.preventDefault();
                event.stopPropagation();
              }}
            />
          );
        }),
      )}
    </>
  );
}

function drawn(along: (number | null)[], length: number, x: (at: number) => number): string {
  let path = "";
  let open = false;
  along.forEach((value, n) => {
    if (value !== null)
      path += `${open ? "L" : "M"}${x((n / (along.length - 1)) * length).toFixed(1)} ${y(value).toFixed(1)}`;
    open = value !== null;
  });
  return path;
}
