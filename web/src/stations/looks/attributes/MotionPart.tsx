import { Box } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { answer, client, type LookView, type Schemas } from "../../../api/client";
import { Cap, FaultNote, Num } from "../../../components/atoms";
import type { AttributeLine } from "../../../model/lines";
import { ink } from "../../../theme/tokens";

type Motion = Schemas["Motion"];
type Head = Schemas["HeadMotion"];

const [WIDTH, HEIGHT, EDGE] = [324, 168, 22];

/** Where the heads of a line point now, and the light trail each draws in the next round: pan across, tilt up. */
export function MotionPart({ look, line }: { look: LookView; line: AttributeLine }) {
  const { data } = useQuery({
    queryKey: ["motion", line.id],
    queryFn: async () =>
      (await answer(
        client.GET("/api/looks/{look_id}/lines/{line_id}/motion", {
          params: { path: { look_id: look.id, line_id: line.id } },
        }),
      )) as Motion,
    refetchInterval: 250,
    retry: false,
    gcTime: 5_000,
  });
  if (!data?.heads.length) return null;
  const { heads, seconds, moves } = data;
  const pan = within(
    heads.flatMap((one) => one.across),
    span(heads.map((one) => one.pan)),
  );
  const tilt = within(
    heads.flatMap((one) => one.up),
    span(heads.map((one) => one.tilt)),
  );
  const fastest = Math.max(...heads.map((one) => one.speed));
  const unit = heads.every((one) => one.in_degrees) ? "°" : "";
  const x = (value: number) => EDGE + ((value - pan[0]) / (pan[1] - pan[0] || 1)) * (WIDTH - 2 * EDGE);
  const y = (value: number) => HEIGHT - 14 - ((value - tilt[0]) / (tilt[1] - tilt[0] || 1)) * (HEIGHT - 28);
  const stopped = heads.filter((one) => one.stopped.length);
  return (
    <Box role="group" aria-label="Motion" sx={{ px: 2, pb: 1.5 }}>
      <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "baseline", pb: 0.5 }}>
        <Box sx={{ fontSize: 13.5, fontWeight: 600 }}>Where the heads point</Box>
        <Cap>pan across, tilt up</Cap>
      </Box>
      <svg
        width="100%"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={`${heads.length} heads, ${moves ? "moving" : "standing"}`}
        style={{ background: ink.row, borderRadius: 6, display: "block" }}
      >
        {pan[0] < 0 && pan[1] > 0 && (
          <path d={`M${x(0)} 8V${HEIGHT - 14}`} stroke={ink.hair2} strokeDasharray="2 3" />
        )}
        {tilt[0] < 0 && tilt[1] > 0 && (
          <path d={`M${EDGE / 2} ${y(0)}H${WIDTH - EDGE / 2}`} stroke={ink.hair2} strokeDasharray="2 3" />
        )}
        {moves &&
          heads.map((one) => <path key={one.number} d={trail(one, x, y)} fill="none" stroke={ink.sea} />)}
        {heads.map((one) => (
          <g key={one.number}>
            <circle cx={x(one.across[0] ?? 0)} cy={y(one.up[0] ?? 0)} r="3" fill={ink.brass} />
            <text x={x(one.across[0] ?? 0) + 5} y={y(one.up[0] ?? 0) - 4} fontSize="9" fill={ink.soft}>
              {one.number}
            </text>
          </g>
        ))}
        <text x={x(pan[0]) + 3} y={HEIGHT - 3} fontSize="9" fill={ink.faint}>
          {pan[0]}
          {unit}
        </text>
        <text x={x(pan[1]) - 3} y={HEIGHT - 3} fontSize="9" fill={ink.faint} textAnchor="end">
          {pan[1]}
          {unit}
        </text>
        <text x={3} y={y(tilt[0])} fontSize="9" fill={ink.faint}>
          {tilt[0]}
          {unit}
        </text>
        <text x={3} y={y(tilt[1]) + 6} fontSize="9" fill={ink.faint}>
          {tilt[1]}
          {unit}
        </text>
      </svg>
      <Cap sx={{ pt: 0.75 }}>
        {moves ? (
          <>
            A round lasts <Num>{seconds.toFixed(1)} s</Num>; the fastest is asked{" "}
            <Num>
              {fastest.toFixed(1)}
              {unit}
            </Num>{" "}
            a second.
          </>
        ) : (
          "They stand still: choose a path to move along under set more."
        )}
      </Cap>
      {stopped.length > 0 && (
        <FaultNote
          what={`${stopped.map((one) => one.number).join(", ")} come${stopped.length > 1 ? "" : "s"} to the end of what can be turned.`}
          repair="Take another position, or less reach."
        />
      )}
    </Box>
  );
}

const span = (all: [number, number][]): [number, number] => [
  Math.min(...all.map(([low, high]) => Math.min(low, high))),
  Math.max(...all.map(([low, high]) => Math.max(low, high))),
];

/** What of a range is drawn: where the heads come to and some room around it. */
function within(values: number[], [low, high]: [number, number]): [number, number] {
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const room = Math.max((most - least) * 0.25, (high - low) / 16);
  return [Math.round(Math.max(least - room, low)), Math.round(Math.min(most + room, high))];
}

const trail = (one: Head, x: (value: number) => number, y: (value: number) => number): string =>
  one.across
    .map((value, n) => `${n ? "L" : "M"}${x(value).toFixed(1)} ${y(one.up[n] ?? 0).toFixed(1)}`)
    .join("");
