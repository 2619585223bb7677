import type { PointerEvent } from "react";
import { type Entry, type Line, outlineOf, xOf } from "../../model/staff";
import { ink } from "../../theme/tokens";

interface StrokeProps {
  entry: Entry;
  line: Line;
  middle: number;
  half: number;
  /** Eight beats of what it plays. */
  picture: string | undefined;
  chosen: boolean;
  proposed: boolean;
  /** While it is dragged: beats, staves in pixels, and beats longer. */
  shifted: { beats: number; y: number; longer: number } | null;
  onDown: ((event: PointerEvent, edge: boolean) => void) | undefined;
}

const STAR = "M0-6.5 1.5-1.5 6.5 0 1.5 1.5 0 6.5-1.5 1.5-6.5 0-1.5-1.5Z";
const PICTURE_BEATS = 8;

/** An entry as a stroke: its texture is the look, its thickness the level, its taper the fades. An accent is a star. */
export function Stroke(props: StrokeProps) {
  const { entry, line, middle, half, picture, chosen, proposed, shifted, onDown } = props;
  const perBeat = line.width / (line.last - line.first);
  const moved = shifted
    ? { ...entry, at: entry.at + shifted.beats, length: Math.max(entry.length + shifted.longer, 0.5) }
    : entry;
  const y = middle + (shifted?.y ?? 0);
  const name = `${entry.name} ${entry.said.level} ${entry.place}`;
  const colour = entry.gone ? ink.coral : chosen ? ink.brass : proposed ? ink.brassSoft : ink.hair2;
  if (entry.accent)
    return (
      <g
        role="img"
        aria-label={`Accent, ${name}`}
        transform={`translate(${xOf(line, moved.at)} ${y})`}
        onPointerDown={onDown && ((event) => onDown(event, false))}
        style={{ cursor: onDown ? "grab" : "default" }}
      >
        <title>{name}</title>
        <rect x={-7} y={-9} width={14} height={18} fill="transparent" />
        <path
          d={STAR}
          fill={proposed ? "none" : chosen ? ink.brass : ink.text}
          stroke={proposed ? ink.brass : "none"}
          strokeDasharray={proposed ? "2 1.4" : undefined}
        />
      </g>
    );
  const points = outlineOf(moved, line, y, half);
  const left = Math.max(xOf(line, moved.at), line.left);
  const right = Math.min(xOf(line, moved.at + moved.length), line.left + line.width);
  const id = `stroke-${entry.id}`;
  const begins = moved.at >= line.first;
  return (
    <g role="img" aria-label={name}>
      <title>{name}</title>
      {picture && (
        <pattern
          id={id}
          patternUnits="userSpaceOnUse"
          x={xOf(line, moved.at)}
          y={y - half}
          width={perBeat * PICTURE_BEATS}
          height={half * 2}
        >
          <image
            href={picture}
            width={perBeat * PICTURE_BEATS}
            height={half * 2}
            preserveAspectRatio="none"
            style={{ imageRendering: "pixelated" }}
          />
        </pattern>
      )}
      {chosen && (
        <rect
          x={left}
          y={y - half - 14}
          width={right - left}
          height={half * 2 + 16}
          fill={ink.brassGround}
          opacity={0.8}
        />
      )}
      <polygon
        points={points}
        fill={picture ? `url(#${id})` : entry.ramp.length ? "#cfd8d6" : "none"}
        fillOpacity={proposed ? 0.45 : 1}
        stroke={colour}
        strokeWidth={chosen ? 1.6 : 1}
        strokeDasharray={proposed ? "4 3" : undefined}
        onPointerDown={onDown && ((event) => onDown(event, false))}
        style={{ cursor: onDown ? "grab" : "default" }}
      />
      {chosen && onDown && (
        <rect
          x={right - 5}
          y={y - half - 2}
          width={8}
          height={half * 2 + 4}
          fill={ink.brass}
          style={{ cursor: "ew-resize" }}
          onPointerDown={(event) => onDown(event, true)}
        />
      )}
      {(begins || line.first > 0) && right - left > 24 && (
        <text
          x={left + 3}
          y={y - half - 3}
          fontSize={11.5}
          fill={entry.gone ? ink.coral : chosen ? ink.brass : ink.text}
          style={{ pointerEvents: "none" }}
        >
          {fitting(`${entry.name} ${entry.said.level}${begins ? "" : ` from ${entry.begins}`}`, right - left)}
        </text>
      )}
    </g>
  );
}

/** As much of the words as there is room for. */
function fitting(words: string, width: number): string {
  const most = Math.floor(width / 6.2);
  return words.length <= most ? words : `${words.slice(0, Math.max(most - 1, 1))}…`;
}
