import type { ReactNode } from "react";
import { Num } from "../../components/atoms";
import type { Line } from "../../model/lines";
import { round } from "../../model/values";
import { ink } from "../../theme/tokens";
import { useChart, useDrivenNow } from "./useDrive";

interface DrivenProps {
  look: string;
  line: Line;
  name: string;
  /** Times the stored number as it is shown: 100 where a share is shown in percent. */
  times?: number;
  unit?: string;
  children: ReactNode;
}

const [WIDTH, HEIGHT] = [34, 14];

/** A value as it is stored or, where something moves it, its true curve with *now* on it, and the value it has now. */
export function Driven(props: DrivenProps) {
  return props.line.drives[props.name] ? <Moving {...props} /> : props.children;
}

function Moving({ look, line, name, times = 1, unit = "", children }: DrivenProps) {
  const now = useDrivenNow(line, name, 8);
  const chart = useChart(look, line, name, now?.page ?? 0);
  const drive = line.drives[name];
  if (!drive) return null;
  const waits = drive.source === "sound" || drive.source === "input";
  const [low, high] = [Math.min(drive.low, drive.high), Math.max(drive.low, drive.high)];
  const y = (value: number) => HEIGHT - 2 - ((value - low) / (high - low || 1)) * (HEIGHT - 4);
  const path = chart?.reached
    .filter((_, at) => at % 8 === 0)
    .map(
      (value, at, all) =>
        `${at ? "L" : "M"}${((at / (all.length - 1)) * WIDTH).toFixed(1)} ${y(value).toFixed(1)}`,
    )
    .join("");
  return (
    <>
      <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label="driven">
        <path d={waits ? `M0 ${HEIGHT / 2}H${WIDTH}` : path} fill="none" stroke={ink.sea} strokeWidth="1.4" />
        {now && !waits && <circle cx={now.place * WIDTH} cy={y(now.value)} r="2.4" fill={ink.brass} />}
      </svg>
      {waits ? (
        children
      ) : (
        <Num>
          {round((now?.value ?? drive.low) * times, times === 1 ? 1 : 0)}
          {unit}
        </Num>
      )}
    </>
  );
}
