import { type PointerEvent, useId, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { clamp, round, saySpeed } from "../../model/values";
import { ink, mono } from "../../theme/tokens";
import type { Knot, Ribbon } from "./RibbonControl";
import { RibbonNow } from "./RibbonNow";
import { levelAt, RibbonThreads } from "./RibbonThreads";

interface ChartProps {
  ribbon: Ribbon;
  chart: Schemas["RibbonChart"] | undefined;
  chosen: number;
  unit: string;
  onChoose: (knot: number) => void;
  onKnots: (knots: Knot[]) => unknown;
  onThreads: (threads: Threads) => unknown;
  /** Where along it the look is now, 0 to 1. */
  nowAt: () => number | undefined;
}

export type Threads = Record<string, [number, number][]>;

const [W, H, SIDE, MIDDLE] = [560, 118, 10, 52];
/** Half the height of the ribbon: dark, and what full light adds to it. */
const [THIN, LIGHT] = [7, 36];

const css = ([red, green, blue]: readonly number[]): string => `rgb(${red} ${green} ${blue})`;

/** The ribbon: time runs along it, its colour is that of the moment, its height the light. Knots are dragged in time. */
export function RibbonChart({
  ribbon,
  chart,
  chosen,
  unit,
  onChoose,
  onKnots,
  onThreads,
  nowAt,
}: ChartProps) {
  const [dragged, setDragged] = useState<{ knot: number; at: number } | null>(null);
  // What the hand holds counts at once: a move may come before the press was drawn.
  const held = useRef<{ knot: number; at: number } | null>(null);
  const hold = (next: { knot: number; at: number } | null) => {
    held.current = next;
    setDragged(next);
  };
  const svg = useRef<SVGSVGElement>(null);
  const fill = useId();
  const length = ribbon.length.value;
  const x = (at: number) => SIDE + (at / length) * (W - 2 * SIDE);
  const timeAt = (event: { clientX: number }): number => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return 0;
    return clamp((((event.clientX - box.left) / box.width) * W - SIDE) / (W - 2 * SIDE), 0, 1) * length;
  };
  const valueAt = (event: { clientY: number }): number => {
    const box = svg.current?.getBoundingClientRect();
    return box ? levelAt(((event.clientY - box.top) / box.height) * H) : 0;
  };
  const samples = chart?.colours ?? [];
  const near = (at: number) => Math.round((at / length) * (samples.length - 1));
  const half = (at: number) => THIN + LIGHT * (chart?.light[near(at)] ?? 0);
  const edge = (sign: number) =>
    samples.map((_, n) => {
      const at = (n / (samples.length - 1)) * length;
      return `${x(at).toFixed(1)} ${(MIDDLE + sign * half(at)).toFixed(1)}`;
    });
  const between = (knot: number, at: number): number => {
    const [low, high] = [ribbon.knots[knot - 1]?.[0] ?? -1, ribbon.knots[knot + 1]?.[0] ?? length + 1];
    return round(clamp(at, Math.max(low + 0.01, 0), Math.min(high - 0.01, length)), 2);
  };
  const put = (knot: number, at: number) =>
    onKnots(
      ribbon.knots.map((one, n) => (n === knot ? [between(n, at), one[1], one[2], one[3], one[4]] : one)),
    );
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      role="img"
      aria-label="Colour over time"
      style={{ font: `12px ${mono}`, touchAction: "none", display: "block" }}
      onDoubleClick={(event) => {
        const at = round(timeAt(event), 2);
        const [red = 255, green = 255, blue = 255] = samples[near(at)] ?? [];
        if (ribbon.knots.some((one) => Math.abs(one[0] - at) < 0.02)) return;
        const next = [...ribbon.knots, [at, red, green, blue, false] as Knot].sort((a, b) => a[0] - b[0]);
        onChoose(next.findIndex((one) => one[0] === at));
        void onKnots(next);
      }}
    >
      <defs>
        <linearGradient id={fill} gradientUnits="userSpaceOnUse" x1={SIDE} x2={W - SIDE} y1="0" y2="0">
          {samples
            .filter((_, n) => n % 4 === 0)
            .map((colour, n, all) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: samples have no name but their place
              <stop key={n} offset={n / (all.length - 1)} stopColor={css(colour)} />
            ))}
        </linearGradient>
      </defs>
      <path d={`M${SIDE} ${MIDDLE}H${W - SIDE}`} stroke={ink.hair2} />
      {samples.length > 1 && (
        <path
          d={`M${edge(-1).join("L")}L${edge(1).reverse().join("L")}Z`}
          fill={`url(#${fill})`}
          stroke={ink.hair2}
        />
      )}
      <RibbonThreads
        ribbon={ribbon}
        values={chart?.threads ?? {}}
        x={x}
        timeAt={timeAt}
        valueAt={valueAt}
        onThreads={onThreads}
      />
      {ribbon.knots.map((knot, n) => {
        const at = dragged?.knot === n ? dragged.at : knot[0];
        return (
          <g
            // biome-ignore lint/suspicious/noArrayIndexKey: knots have no name but their place
            key={n}
            tabIndex={0}
            role="slider"
            aria-label={`Knot ${n + 1}`}
            aria-valuenow={round(at, 2)}
            aria-valuetext={`${round(at, 2)} ${unit}, ${knot.slice(1, 4).join(" ")}`}
            style={{ cursor: "ew-resize" }}
            onFocus={() => onChoose(n)}
            onPointerDown={(event: PointerEvent<SVGGElement>) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              onChoose(n);
              hold({ knot: n, at: knot[0] });
            }}
            onPointerMove={(event) =>
              held.current?.knot === n && hold({ knot: n, at: between(n, timeAt(event)) })
            }
            onPointerUp={() => {
              if (held.current && held.current.at !== knot[0]) void put(n, held.current.at);
              hold(null);
            }}
            onPointerCancel={() => hold(null)}
            onKeyDown={(event) => {
              const step = { ArrowLeft: -0.1, ArrowRight: 0.1 }[event.key];
              if (step) void put(n, knot[0] + step * (event.shiftKey ? 10 : 1));
              else if (event.key === "Delete" && ribbon.knots.length > 1)
                void onKnots(ribbon.knots.filter((_, other) => other !== n));
              else return;
              event.preventDefault();
              event.stopPropagation();
            }}
          >
            <path
              d={`M${x(at)} ${MIDDLE - half(at) - 4}V${MIDDLE + half(at) + 4}`}
              stroke={n === chosen ? ink.brass : ink.text}
              strokeWidth={n === chosen ? 3 : 2}
            />
            <circle
              cx={x(at)}
              cy={MIDDLE - half(at) - 4}
              r="5"
              fill={css(knot.slice(1, 4) as number[])}
              stroke={n === chosen ? ink.brass : ink.text}
              strokeWidth="2"
            />
            <text
              x={clamp(x(at), 20, W - 20)}
              y={H - 6}
              textAnchor="middle"
              fill={n === chosen ? ink.brass : ink.soft}
            >
              {round(at, 1)}
            </text>
          </g>
        );
      })}
      <RibbonNow at={nowAt} x={(part) => x(part * length)} />
      <text x={W - 2} y={12} textAnchor="end" fill={ink.soft}>
        {saySpeed(ribbon.length)}
      </text>
    </svg>
  );
}
