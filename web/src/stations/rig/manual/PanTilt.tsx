import { useRef } from "react";
import { Cap } from "../../../components/atoms";
import { type Attribute, levelOf, levelsAt, sayPhysical } from "../../../model/manual";
import { hold } from "../../../stores/hands";
import { ink } from "../../../theme/tokens";
import { usePlaceSent } from "./usePlaceSent";

const [WIDTH, HEIGHT] = [204, 96];
const STEP = 1 / 100;

/** Pan and tilt of all chosen in one field: dragged, or moved with the arrows. */
export function PanTilt({ pan, tilt }: { pan: Attribute; tilt: Attribute }) {
  const box = useRef<SVGSVGElement>(null);
  const [x, y] = [useLevel(pan), useLevel(tilt)];
  const set = (nextX: number, nextY: number) => {
    const levels = { ...levelsAt(pan.places, () => nextX), ...levelsAt(tilt.places, () => nextY) };
    hold("manual", { levels });
  };
  const drag = (event: React.PointerEvent) => {
    const bounds = box.current?.getBoundingClientRect();
    if (!bounds || event.buttons !== 1) return;
    set((event.clientX - bounds.left) / bounds.width, (event.clientY - bounds.top) / bounds.height);
  };
  const onKey = (event: React.KeyboardEvent) => {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-STEP, 0],
      ArrowRight: [STEP, 0],
      ArrowUp: [0, -STEP],
      ArrowDown: [0, STEP],
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    set(x + step[0], y + step[1]);
  };
  return (
    <div style={{ display: "flex", gap: 12, alignItems: "end", marginTop: 8 }}>
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
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drag(event);
        }}
        onPointerMove={drag}
        onKeyDown={onKey}
      >
        <path
          d={`M${WIDTH / 2} 0V${HEIGHT}M0 ${HEIGHT / 2}H${WIDTH}`}
          stroke={ink.hair}
          strokeDasharray="2 4"
          fill="none"
        />
        <circle cx={x * WIDTH} cy={y * HEIGHT} r={6} fill="none" stroke={ink.brass} strokeWidth={2} />
        <circle cx={x * WIDTH} cy={y * HEIGHT} r={1.5} fill={ink.brass} />
      </svg>
      <Cap>
        pan {sayPhysical(pan.channel, x)}
        <br />
        tilt {sayPhysical(tilt.channel, y)}
      </Cap>
    </div>
  );
}

function useLevel(attribute: Attribute): number {
  const [coarse, fine] = usePlaceSent(attribute.places[0]);
  return levelOf(attribute.channel, coarse, fine);
}
