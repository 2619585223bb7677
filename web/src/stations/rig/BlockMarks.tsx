import type { FixtureView } from "../../api/client";
import { ink } from "../../theme/tokens";

const SIDE = 7;
const STEP = 13;
const MOST = 4;

/** Its blocks in a row: joined where one follows the other, apart where it has an address of its own, hollow where it
 * lies nowhere. */
export function BlockMarks({ fixture }: { fixture: FixtureView }) {
  const blocks = fixture.blocks.slice(0, MOST);
  const says = fixture.blocks.map((one) => `${one.name || "block"} ${one.address || "nowhere"}`).join(", ");
  return (
    <svg width={STEP * blocks.length} height="16" role="img" aria-label={says} style={{ display: "block" }}>
      <title>{says}</title>
      {blocks.map((one, n) => {
        const x = n * STEP;
        const joined = n > 0 && !one.apart && one.address;
        return (
          <g key={`${one.name} ${one.address}`}>
            {joined && <path d={`M${x - STEP + SIDE} 8h${STEP - SIDE}`} stroke={ink.sea} strokeWidth="1.4" />}
            {n > 0 && one.apart && <path d={`M${x - 3} 3v10`} stroke={ink.soft} strokeWidth="1" />}
            <rect
              x={x + 0.5}
              y="4.5"
              width={SIDE}
              height={SIDE}
              fill={one.address ? ink.sea : "none"}
              stroke={one.address ? ink.sea : ink.faint}
            />
          </g>
        );
      })}
    </svg>
  );
}
