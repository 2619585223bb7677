import { Box } from "@mui/material";
import { useRef, useState } from "react";
import { newId } from "../../../api/person";
import { Cap } from "../../../components/atoms";
import { Choices } from "../../../components/Choices";
import { type Attribute, sayPhysical } from "../../../model/manual";
import { type HeadTurn, turnHeads } from "../../../stores/hands";
import { ink } from "../../../theme/tokens";
import { useLevelsSent } from "./usePlaceSent";

const [WIDTH, HEIGHT] = [204, 96];
const STEP = 1 / 100;
/** Arrows that follow one another so soon are one movement. */
const REST_MS = 800;
type Way = NonNullable<HeadTurn["way"]>;

/** Pan across and tilt up of all chosen heads: dragged from where each stands, or moved with the arrows. */
export function PanTilt({ pan, tilt }: { pan: Attribute; tilt: Attribute }) {
  const box = useRef<SVGSVGElement>(null);
  const [way, setWay] = useState<Way>("together");
  const [across = [], up = []] = useLevelsSent([pan, tilt]);
  const many = Math.min(pan.places.length, tilt.places.length);
  const drag = useRef({ id: "", x: 0, y: 0, until: 0 });
  const heads = Array.from({ length: many }, (_, n): [string, string] => [
    pan.places[n]?.key ?? "",
    tilt.places[n]?.key ?? "",
  ]);
  const turn = (by: [number, number]) =>
    turnHeads({ heads, across: within(by[0]), up: within(by[1]), way, drag: drag.current.id });
  const begin = (event: React.PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { id: newId(), x: event.clientX, y: event.clientY, until: 0 };
  };
  const move = (event: React.PointerEvent) => {
    const bounds = box.current?.getBoundingClientRect();
    if (!bounds || event.buttons !== 1 || !drag.current.id) return;
    turn([(event.clientX - drag.current.x) / bounds.width, (drag.current.y - event.clientY) / bounds.height]);
  };
  /** How far the arrows have come since the first of them. */
  const stepped = useRef<[number, number]>([0, 0]);
  const onKey = (event: React.KeyboardEvent) => {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-STEP, 0],
      ArrowRight: [STEP, 0],
      ArrowUp: [0, STEP],
      ArrowDown: [0, -STEP],
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    if (performance.now() > drag.current.until) {
      drag.current = { id: newId(), x: 0, y: 0, until: 0 };
      stepped.current = [0, 0];
    }
    drag.current.until = performance.now() + REST_MS;
    stepped.current = [stepped.current[0] + step[0], stepped.current[1] + step[1]];
    turn(stepped.current);
  };
  const [x, y] = [across[0] ?? 0, up[0] ?? 0];
  return (
    <Box sx={{ mt: 1 }}>
      {many > 1 && (
        <Box sx={{ display: "flex", gap: 1, alignItems: "center", mb: 0.75 }}>
          <Cap>turn</Cap>
          <Choices
            names={[
              ["together", "each from its place"],
              ["alike", "alike"],
              ["mirrored", "mirrored"],
            ]}
            chosen={way}
            onChoose={setWay}
          />
        </Box>
      )}
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "end" }}>
        <svg
          ref={box}
          width={WIDTH}
          height={HEIGHT}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved with the arrows
          tabIndex={0}
          role="application"
          aria-label="Pan and tilt"
          style={{
            background: ink.lamp,
            border: `1px solid ${ink.hair2}`,
            borderRadius: 3,
            touchAction: "none",
          }}
          onPointerDown={begin}
          onPointerMove={move}
          onKeyDown={onKey}
        >
          <path
            d={`M${WIDTH / 2} 0V${HEIGHT}M0 ${HEIGHT / 2}H${WIDTH}`}
            stroke={ink.hair}
            strokeDasharray="2 4"
            fill="none"
          />
          {heads.slice(1).map(([key], n) => (
            <circle
              key={key}
              cx={(across[n + 1] ?? 0) * WIDTH}
              cy={(1 - (up[n + 1] ?? 0)) * HEIGHT}
              r={3}
              fill={ink.sea}
            />
          ))}
          <circle cx={x * WIDTH} cy={(1 - y) * HEIGHT} r={6} fill="none" stroke={ink.brass} strokeWidth={2} />
          <circle cx={x * WIDTH} cy={(1 - y) * HEIGHT} r={1.5} fill={ink.brass} />
        </svg>
        <Cap>
          pan across {sayPhysical(pan.channel, x)}
          <br />
          tilt up {sayPhysical(tilt.channel, y)}
        </Cap>
      </Box>
    </Box>
  );
}

const within = (part: number): number => Math.min(1, Math.max(-1, part));
