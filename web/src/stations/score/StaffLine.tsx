import { Box } from "@mui/material";
import { memo, useRef } from "react";
import type { WholeShow } from "../../api/client";
import {
  ACCENT_KEYS,
  beatAt,
  type Entry,
  FOOT,
  HEAD,
  type Line,
  NAMES,
  onLine,
  placeAt,
  type Score,
  xOf,
} from "../../model/staff";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { PlayedBar } from "./PlayedBar";
import { Stroke } from "./Stroke";
import { useEntryDrag } from "./useEntryDrag";
import type { FillView, ScoreEdits } from "./useScore";
import { strokeKey } from "./useStrokes";

interface LineProps {
  show: WholeShow;
  score: Score;
  line: Line;
  stave: number;
  edits: ScoreEdits;
  offered: FillView | null;
  strokes: Map<string, string>;
  running: boolean;
  /** Where it is played, if that is on this line. */
  beat: number | null;
}

/** One line of a score: bar numbers, a stave for each group with its entries, positions beneath. */
export const StaffLine = memo(
  function StaffLine(props: LineProps) {
    const { show, score, line, stave, edits, offered, strokes, running, beat } = props;
    const chosen = useView((view) => view.entries);
    const here = useView((view) => view.stave);
    const svg = useRef<SVGSVGElement>(null);
    const drag = useEntryDrag({ score, line, stave, svg, edits });
    const height = HEAD + score.staves.length * stave + FOOT;
    const right = line.left + line.width;
    const middle = (n: number) => HEAD + n * stave + stave * 0.62;
    const bars = Array.from(
      { length: Math.ceil((line.last - line.first) / score.bar_beats) },
      (_, n) => line.first + n * score.bar_beats,
    );
    const placeOf = (id: string) => score.staves.findIndex((one) => one.id === id);
    const stroke = (one: Entry, proposed: boolean) => {
      const n = placeOf(one.stave);
      if (n < 0 || !onLine(line, one.at, one.length)) return null;
      return (
        <Stroke
          key={one.id}
          entry={one}
          line={line}
          middle={middle(n)}
          half={stave * 0.27}
          picture={strokes.get(strokeKey(one.look, score.staves[n]?.group ?? ""))}
          chosen={chosen.includes(one.id)}
          proposed={proposed}
          shifted={drag.shifted(one)}
          onDown={proposed ? undefined : (event, edge) => drag.begin(one, event, edge)}
        />
      );
    };
    const cursor = (event: React.MouseEvent, id: string) => {
      const box = svg.current?.getBoundingClientRect();
      if (!box) return;
      const at = Math.min(
        Math.max(Math.floor(beatAt(line, event.clientX - box.left)), line.first),
        line.last - 1,
      );
      useView.setState({ entries: [], stave: id, place: placeAt(at, score.bar_beats) });
    };
    return (
      <Box sx={{ position: "relative" }}>
        <svg
          ref={svg}
          width="100%"
          height={height}
          style={{ display: "block" }}
          role="group"
          aria-label={`Bars from ${line.first / score.bar_beats + 1}`}
        >
          {bars.map((at) => (
            <g key={at}>
              <line
                x1={xOf(line, at)}
                x2={xOf(line, at)}
                y1={HEAD - 2}
                y2={height - FOOT}
                stroke={ink.hair}
              />
              <text x={xOf(line, at) + 2} y={14} fill={ink.soft} style={{ font: `500 13px ${mono}` }}>
                {at / score.bar_beats + 1}
              </text>
            </g>
          ))}
          {score.notes
            .filter((one) => onLine(line, (one.bar - 1) * score.bar_beats, 1))
            .map((one) => (
              <text
                key={one.bar}
                x={xOf(line, (one.bar - 1) * score.bar_beats) + 22}
                y={14}
                fill={ink.soft}
                fontSize={12}
              >
                {one.text}
              </text>
            ))}
          <path
            d={`M${NAMES - 4} ${HEAD}h-5v${score.staves.length * stave}h5`}
            fill="none"
            stroke={ink.soft}
            strokeWidth="1.2"
          />
          {score.staves.map((one, n) => (
            // biome-ignore lint/a11y/noStaticElementInteractions: keys write by the line at the right
            <g key={one.id} onClick={(event) => cursor(event, one.id)}>
              <text
                x={12}
                y={middle(n) + 4}
                fill={one.id === here ? ink.brass : one.gone ? ink.coral : ink.text}
                fontSize={12.5}
              >
                {one.name.length > 15 ? `${one.name.slice(0, 14)}…` : one.name}
                <title>{one.name}</title>
              </text>
              {running && ACCENT_KEYS[n] && (
                <text x={NAMES - 20} y={middle(n) + 4} fill={ink.soft} style={{ font: `500 11px ${mono}` }}>
                  {ACCENT_KEYS[n]}
                </text>
              )}
              <rect x={line.left} y={HEAD + n * stave} width={line.width} height={stave} fill="transparent" />
              <line
                x1={line.left}
                x2={right}
                y1={middle(n)}
                y2={middle(n)}
                stroke={ink.hair2}
                strokeWidth="1"
              />
            </g>
          ))}
          {score.entries.map((one) => stroke(one, false))}
          {offered?.entries.map((one) => stroke(one, true))}
          {[...score.positions, ...(offered?.positions ?? [])]
            .filter((one) => onLine(line, one.at, 1e-6))
            .map((one) => (
              <g key={one.id}>
                <path
                  d={`M${xOf(line, one.at)} ${height - FOOT + 1}v9`}
                  stroke={one.filled ? ink.brassSoft : ink.soft}
                  fill="none"
                />
                {/* biome-ignore lint/a11y/noStaticElementInteractions: chosen like an entry */}
                <text
                  x={xOf(line, one.at) + 4}
                  y={height - FOOT + 11}
                  fill={one.gone ? ink.coral : chosen.includes(one.id) ? ink.brass : ink.text}
                  fontSize={12}
                  style={{ cursor: "pointer" }}
                  onClick={() => useView.setState({ entries: [one.id], stave: one.stave })}
                >
                  at {one.name}
                </text>
              </g>
            ))}
        </svg>
        {beat !== null && (
          <PlayedBar show={show} score={score} line={line} stave={stave} height={height} beat={beat} />
        )}
      </Box>
    );
  },
  (a, b) =>
    a.score === b.score &&
    a.stave === b.stave &&
    a.line.width === b.line.width &&
    a.line.first === b.line.first &&
    a.offered === b.offered &&
    a.running === b.running &&
    a.beat === b.beat &&
    [...a.strokes.values()].join().length === [...b.strokes.values()].join().length,
);
