import { Box } from "@mui/material";
import { type PointerEvent, useState } from "react";
import type { Schemas } from "../../api/client";
import { Cap, Chip } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import type { Line } from "../../model/lines";
import { clamp } from "../../model/values";
import { ink } from "../../theme/tokens";
import type { LineEdits } from "./useLineEdits";

type Rectangle = NonNullable<Line["region"]>["squares"][number];

const SIDES = [
  ["First column", 0],
  ["First row", 1],
  ["Columns", 2],
  ["Rows", 3],
] as const;

interface RegionProps {
  line: Line;
  matrix: Schemas["MatrixView"] | undefined;
  edits: LineEdits;
}

/** The squares a line keeps to: drawn with the pointer (Shift adds another), or typed. */
export function RegionControl({ line, matrix, edits }: RegionProps) {
  const [drawn, setDrawn] = useState<{ from: [number, number]; to: [number, number] } | null>(null);
  if (!matrix) return null;
  const { width, height } = matrix;
  const region = line.region;
  const squares = region?.squares ?? [];
  const scale = Math.min(420 / width, 150 / height);
  const set = (next: Rectangle[], outside = region?.outside ?? false) =>
    edits.type({ region: next.length ? { squares: next, outside } : "none" });
  const at = (event: PointerEvent<SVGSVGElement>): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    return [
      clamp(Math.floor(((event.clientX - box.left) / box.width) * width), 0, width - 1),
      clamp(Math.floor(((event.clientY - box.top) / box.height) * height), 0, height - 1),
    ];
  };
  const between = ({ from, to }: NonNullable<typeof drawn>): Rectangle => [
    Math.min(from[0], to[0]),
    Math.min(from[1], to[1]),
    Math.abs(from[0] - to[0]) + 1,
    Math.abs(from[1] - to[1]) + 1,
  ];
  const rectangle = ([x, y, w, h]: Rectangle, colour: string) => (
    <rect
      key={`${x} ${y} ${w} ${h} ${colour}`}
      x={x}
      y={y}
      width={w}
      height={h}
      fill={colour}
      fillOpacity={0.35}
      stroke={colour}
      strokeWidth={1.5 / scale}
    />
  );
  const [first] = squares;
  return (
    <Box role="group" aria-label="Part of the matrix" sx={{ display: "grid", gap: 1 }}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        width={width * scale}
        height={height * scale}
        role="img"
        aria-label={`${matrix.name}, ${width} x ${height} squares`}
        style={{
          background: ink.ground,
          border: `1px solid ${ink.hair2}`,
          cursor: "crosshair",
          touchAction: "none",
        }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setDrawn({ from: at(event), to: at(event) });
        }}
        onPointerMove={(event) => drawn && setDrawn({ ...drawn, to: at(event) })}
        onPointerUp={(event) => {
          if (drawn) void set(event.shiftKey ? [...squares, between(drawn)] : [between(drawn)]);
          setDrawn(null);
        }}
        onPointerCancel={() => setDrawn(null)}
      >
        {squares.map((one) => rectangle(one, ink.sea))}
        {drawn && rectangle(between(drawn), ink.brass)}
      </svg>
      <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap", fontSize: 13 }}>
        {SIDES.map(([label, side]) => (
          <Box key={label} component="label" sx={{ display: "flex", gap: 0.5, alignItems: "center" }}>
            {label.toLowerCase()}
            <Typed
              numeric
              width={52}
              label={label}
              value={String(
                (first?.[side] ?? (side < 2 ? 0 : side === 2 ? width : height)) + (side < 2 ? 1 : 0),
              )}
              onCommit={(text) => {
                const value = Number.parseInt(text, 10) - (side < 2 ? 1 : 0);
                const next = [...(first ?? [0, 0, width, height])] as Rectangle;
                next[side] = value;
                return Number.isInteger(value) ? set([next, ...squares.slice(1)]) : "Type a whole number.";
              }}
            />
          </Box>
        ))}
        <Chip
          active={region?.outside ?? false}
          aria-pressed={region?.outside ?? false}
          disabled={!region}
          onClick={() => void set(squares, !region?.outside)}
        >
          all but that
        </Chip>
        <Chip disabled={!region} onClick={() => void set([])}>
          all of it
        </Chip>
      </Box>
      <Cap>Draw on the matrix; with Shift another part is added.</Cap>
    </Box>
  );
}
