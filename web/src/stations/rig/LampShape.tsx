import { useEffect, useMemo, useRef } from "react";
import type { FixtureView, WholeShow } from "../../api/client";
import { eachFrame, same } from "../../canvas/eachFrame";
import { firstCells } from "../../model/firstCells";
import { facePoints, type Point } from "../../model/plan";
import { watchCells } from "../../stores/live";
import { cells } from "../../stores/pictures";
import { ink, inkNow, themeNow } from "../../theme/tokens";

interface Shape {
  points: Point[];
  /** Cells of a line in one row lie as blocks side by side; others as dots on their face. */
  line: boolean;
}

const GAP_PX = 1;
/** The colours of more cells than these are not sent to a page for the sake of its rows. */
const CELLS_MOST = 20_000;

function shapeOf(fixture: FixtureView, show: WholeShow): Shape {
  const points = facePoints(
    fixture,
    show.profiles.find((one) => one.id === fixture.profile),
  );
  const rows = new Set(points.map(([, y]) => y.toFixed(3)));
  return { points, line: rows.size <= 1 };
}

interface LampProps {
  fixture: FixtureView;
  show: WholeShow;
  height?: number;
  /** A cell was pressed, from 1. */
  onCell?: (cell: number, event: React.MouseEvent) => void;
}

/** A fixture's cells as they sit on its face, in the colours that were sent. */
export function LampShape(props: LampProps) {
  const { fixtures } = props.show;
  const last = fixtures.at(-1);
  const all = last ? (firstCells(fixtures).get(last.id) ?? 0) + last.cells : 0;
  if (all <= CELLS_MOST) return <Drawn {...props} />;
  return (
    <span
      title="Too many cells to follow in a table: a matrix shows them"
      style={{ color: ink.faint, fontSize: 12 }}
    >
      not drawn
    </span>
  );
}

function Drawn({ fixture, show, height = 24, onCell }: LampProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const shape = useMemo(() => shapeOf(fixture, show), [fixture, show]);
  const first = firstCells(show.fixtures).get(fixture.id) ?? 0;
  useEffect(() => watchCells(), []);
  useEffect(() => {
    let seen: unknown[] = [];
    const draw = () => {
      const target = canvas.current;
      const context = target?.getContext("2d");
      if (!target || !context) return;
      const { clientWidth: width, clientHeight: tall } = target;
      const ratio = window.devicePixelRatio;
      const state = [cells.rgb, width, tall, ratio, themeNow()];
      if (same(state, seen)) return;
      seen = state;
      if (target.width !== width * ratio || target.height !== tall * ratio) {
        target.width = width * ratio;
        target.height = tall * ratio;
      }
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      context.clearRect(0, 0, width, tall);
      boxesOf(shape, width, tall).forEach(([x, y, w, h], n) => {
        const at = (first + n) * 3;
        const [red = 0, green = 0, blue = 0] = cells.rgb.subarray(at, at + 3);
        context.fillStyle = inkNow("lamp");
        context.fillRect(x, y, w, h);
        if (red + green + blue > 6) {
          context.fillStyle = `rgb(${red} ${green} ${blue})`;
          context.fillRect(x, y, w, h);
        }
      });
    };
    return eachFrame(draw);
  }, [shape, first]);
  if (!shape.points.length) return <span style={{ color: ink.faint, fontSize: 12 }}>no cells</span>;
  const press = (event: React.MouseEvent<HTMLCanvasElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [px, py] = [event.clientX - box.left, event.clientY - box.top];
    const far = boxesOf(shape, box.width, box.height).map(([x, y, w, h]) =>
      Math.hypot(x + w / 2 - px, y + h / 2 - py),
    );
    onCell?.(far.indexOf(Math.min(...far)) + 1, event);
  };
  return (
    <canvas
      data-live
      ref={canvas}
      role="img"
      aria-label={`${fixture.name} as sent`}
      onClick={onCell && press}
      style={{ display: "block", width: "100%", height, cursor: onCell ? "pointer" : "inherit" }}
    />
  );
}

/** Left, top, width and height of each cell, in pixels of a canvas. */
function boxesOf({ points, line }: Shape, width: number, height: number): [number, number, number, number][] {
  if (line) {
    const step = Math.min(width / points.length, 26);
    const w = Math.max(step - (step > 4 ? GAP_PX : 0), 1);
    const h = Math.min(height, 10);
    return points.map((_, n) => [n * step, (height - h) / 2, w, h]);
  }
  const across = new Set(points.map(([x]) => x.toFixed(3))).size;
  const down = new Set(points.map(([, y]) => y.toFixed(3))).size;
  const wide = Math.min(width, height * Math.max(1, Math.min(across / down, 6)));
  const size = Math.max(
    Math.min(wide / Math.min(across, points.length), height / Math.min(down, 8)) * 0.8,
    2,
  );
  return points.map(([x, y]) => [x * (wide - size), y * (height - size), size, size]);
}
