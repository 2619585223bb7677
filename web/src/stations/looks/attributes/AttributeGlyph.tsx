import type { AttributeLine } from "../../../model/lines";
import { ink } from "../../../theme/tokens";

const [WIDTH, HEIGHT] = [72, 28];
const HEADS = [12, 28, 44, 60];

/** What a line that paints nothing does: beams that stand, beams that move, or a wheel. */
export function AttributeGlyph({ line }: { line: AttributeLine }) {
  const moves = "params.Pan" in line.drives || "params.Tilt" in line.drives;
  const points = moves || "Pan" in line.params || "Tilt" in line.params || line.presets.length > 0;
  const lamp = { fill: "none", stroke: ink.soft, strokeWidth: 1.2 };
  return (
    <svg width={WIDTH} height={HEIGHT} role="img" aria-label={moves ? "heads that move" : "attributes"}>
      <rect width={WIDTH} height={HEIGHT} rx="3" fill={ink.row} />
      {HEADS.map((x, n) =>
        points ? (
          <g key={x}>
            <path d={`M${x} 22L${x + (n - 1.5) * 5} 9`} stroke={ink.sea} strokeWidth="1.2" />
            {moves && (
              <ellipse
                cx={x + (n - 1.5) * 5}
                cy="8"
                rx="6"
                ry="3"
                {...lamp}
                stroke={ink.brass}
                strokeWidth="0.9"
              />
            )}
            <circle cx={x} cy="23" r="2" fill={ink.soft} />
          </g>
        ) : (
          <g key={x}>
            <circle cx={x} cy="14" r="6" {...lamp} />
            <path d={`M${x - 4} 14q2 -4 4 0t4 0`} {...lamp} stroke={ink.sea} />
          </g>
        ),
      )}
    </svg>
  );
}
