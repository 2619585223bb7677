import { type PointerEvent, useRef, useState } from "react";
import type { Drive, Line } from "../../model/lines";
import { clamp, round, saySpeed } from "../../model/values";
import { ink, mono } from "../../theme/tokens";
import { useChart, useDrivenNow } from "./useDrive";

interface ChartProps {
  look: string;
  line: Line;
  name: string;
  times: number;
  unit: string;
  /** Given for a curve: its points, moved by the pointer or the arrows. */
  onPoints?: (points: Drive["points"]) => unknown;
}

const [W, H, LEFT, TOP, FOOT] = [320, 184, 6, 8, 22];
const wide = W - LEFT - 8;
const high = H - TOP - FOOT;

/** A drive over time: dotted as it is asked, drawn as smoothing leaves it, the cells as dots on *now*. */
export function DriveChart({ look, line, name, times, unit, onPoints }: ChartProps) {
  const now = useDrivenNow(line, name, 20);
  const chart = useChart(look, line, name, now?.page ?? 0);
  const [dragged, setDragged] = useState<{ at: number; points: Drive["points"] } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const drive = line.drives[name];
  if (!drive) return null;
  const span = drive.high - drive.low || 1;
  const x = (place: number) => LEFT + place * wide;
  const level = (share: number) => TOP + (1 - share) * high;
  const y = (value: number) => level((value - drive.low) / span);
  const path = (values: number[]) =>
    values
      .map((value, at) => `${at ? "L" : "M"}${x(at / (values.length - 1)).toFixed(1)} ${y(value).toFixed(1)}`)
      .join("");
  const points = dragged?.points ?? drive.points;
  const spot = (event: PointerEvent): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    return [
      clamp((((event.clientX - box.left) / box.width) * W - LEFT) / wide, 0, 1),
      clamp(1 - (((event.clientY - box.top) / box.height) * H - TOP) / high, 0, 1),
    ].map((one) => round(one, 3)) as [number, number];
  };
  const placed = (at: number, to: [number, number]): Drive["points"] => {
    const [before, after] = [drive.points[at - 1]?.[0] ?? 0, drive.points[at + 1]?.[0] ?? 1];
    return points.map((one, n) => (n === at ? [clamp(to[0], before, after), to[1]] : one));
  };
  const nudge = (at: number, by: [number, number]) => {
    const [place, share] = drive.points[at] ?? [0, 0];
    void onPoints?.(placed(at, [round(place + by[0], 3), round(clamp(share + by[1], 0, 1), 3)]));
  };
  const label = (value: number) => `${round(value * times, 1)}${unit}`;
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      role="img"
      aria-label={`${name.replace("params.", "")} over time, now ${label(now?.value ?? drive.low)}`}
      style={{ font: `12px ${mono}`, touchAction: onPoints ? "none" : "auto", display: "block" }}
      onDoubleClick={(event) => {
        if (!onPoints) return;
        const next = [...drive.points, spot(event as unknown as PointerEvent)];
        void onPoints(next.sort((a, b) => a[0] - b[0]));
      }}
    >
      {[0, 0.25, 0.5, 0.75, 1].map((one) => (
        <path key={one} d={`M${x(one)} ${TOP}V${TOP + high}`} stroke={ink.hair} />
      ))}
      {[0, 0.5, 1].map((one) => (
        <path key={one} d={`M${LEFT} ${level(one)}h${wide}`} stroke={ink.hair} />
      ))}
      <text x={W - 4} y={TOP + 10} textAnchor="end" fill={ink.soft}>
        {label(drive.high)}
      </text>
      <text x={W - 4} y={TOP + high - 4} textAnchor="end" fill={ink.soft}>
        {label(drive.low)}
      </text>
      {chart && (
        <>
          <path
            d={path(chart.asked)}
            fill="none"
            stroke={ink.soft}
            strokeDasharray="1.5 3"
            strokeLinecap="round"
          />
          <path d={path(chart.reached)} fill="none" stroke={ink.text} strokeWidth="2" />
          <text x={LEFT} y={H - 5} fill={ink.soft}>
            0
          </text>
          <text x={W - 8} y={H - 5} textAnchor="end" fill={ink.soft}>
            {saySpeed(chart.length)}
          </text>
        </>
      )}
      {now && (
        <>
          <path d={`M${x(now.place)} ${TOP - 4}V${TOP + high + 4}`} stroke={ink.brass} strokeWidth="1.5" />
          {now.cells.map((one, cell) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: cells have no name but their place
            <circle key={cell} cx={x(now.place)} cy={level(one)} r="2.2" fill={ink.sea} />
          ))}
          <circle cx={x(now.place)} cy={y(now.value)} r="3.5" fill={ink.brass} />
          <text
            x={clamp(x(now.place), 40, W - 104)}
            y={H - 5}
            textAnchor="middle"
            fill={ink.brass}
            style={{ fontWeight: 600 }}
          >
            {label(now.value)}
          </text>
        </>
      )}
      {onPoints &&
        points.map(([place, share], at) => (
          <circle
            // biome-ignore lint/suspicious/noArrayIndexKey: points have no name but their place
            key={at}
            cx={x(place)}
            cy={level(share)}
            r="6"
            fill={ink.panel}
            stroke={ink.brass}
            strokeWidth="2"
            tabIndex={0}
            role="slider"
            aria-label={`Point ${at + 1}`}
            aria-valuenow={round(share * 100, 1)}
            aria-valuetext={`${round(share * 100, 1)} % at ${round(place * 100, 1)} %`}
            style={{ cursor: "grab" }}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setDragged({ at, points: drive.points });
            }}
            onPointerMove={(event) =>
              dragged?.at === at && setDragged({ at, points: placed(at, spot(event)) })
            }
            onPointerUp={() => {
              if (dragged) void onPoints(dragged.points);
              setDragged(null);
            }}
            onPointerCancel={() => setDragged(null)}
            onKeyDown={(event) => {
              const steps: Record<string, [number, number]> = {
                ArrowLeft: [-0.01, 0],
                ArrowRight: [0.01, 0],
                ArrowUp: [0, 0.01],
                ArrowDown: [0, -0.01],
              };
              const by = steps[event.key];
              if (by) {
                event.preventDefault();
                nudge(at, by);
              } else if (event.key === "Delete" && points.length > 2) {
                event.preventDefault();
                event.stopPropagation();
                void onPoints(points.filter((_, n) => n !== at));
              }
            }}
          />
        ))}
    </svg>
  );
}
