import type { PlanData } from "../../../api/client";
import type { PlanLamp, PlanScene } from "../../../canvas/planPainter";
import {
  type Bounds,
  boundsOf,
  cornersOf,
  fitted,
  type PlanItem,
  type PlanView,
  type Point,
  snapped,
} from "../../../model/plan";
import { cells } from "../../../stores/pictures";

export type Tool = "choose" | "row" | "grid" | "ring" | "label";

export interface CanvasProps {
  plan: PlanData;
  lamps: PlanLamp[];
  chosen: string[];
  tool: Tool;
  snap: number;
  labels: boolean;
  /** What would be added, where it would hang. */
  coming: PlanItem[];
  /** Counts up to ask for everything to be shown. */
  fit: number;
  onChoose: (ids: string[]) => void;
  onMove: (items: PlanItem[], label: string) => void;
  /** A tool was dragged from one point to another. */
  onDrawn: (tool: Exclude<Tool, "choose">, from: Point, to: Point) => void;
  onRemove: (ids: string[]) => void;
}

export interface Drag {
  kind: "move" | "pan" | "draw";
  from: Point;
  to: Point;
  /** Where the pointer went down on the screen: a click moves nothing. */
  began: [number, number];
  moved: boolean;
}

export function inView(
  { left, right, bottom, top }: Bounds,
  view: PlanView,
  width: number,
  height: number,
): boolean {
  const [across, up] = [width / view.scale / 2, height / view.scale / 2];
  return left > view.x - across && right < view.x + across && bottom > view.y - up && top < view.y + up;
}

const LABEL_PX = 7.4;
/** The sign of a node takes so much before its word, px. */
const NODE_PX = 13;

export function fittedTo({ plan, coming }: CanvasProps, box: DOMRect): PlanView {
  const words = plan.items
    .filter((one) => one.kind !== "fixture")
    .map((one) => ({ x: one.x, px: one.text.length * LABEL_PX + (one.kind === "node" ? NODE_PX : 0) }));
  return fitted(wholeOf(plan, coming), box.width, box.height, words);
}

/** Everything there is on a plan, its picture included. */
export function wholeOf(plan: PlanData, coming: PlanItem[]): Bounds | null {
  const corners = [...plan.items, ...coming].flatMap(cornersOf);
  const [w, h] = [plan.picture_width_m / 2, plan.picture_height_m / 2];
  if (plan.picture)
    corners.push([plan.picture_x - w, plan.picture_y - h], [plan.picture_x + w, plan.picture_y + h]);
  return boundsOf(corners);
}

export const itemsChosen = ({ plan, chosen }: CanvasProps): PlanItem[] =>
  plan.items.filter((one) => chosen.includes(one.id));

/** What is chosen after a drag: the first one snaps to the grid, the others keep their distance. */
export function shifted(props: CanvasProps, { from, to }: Drag): PlanItem[] {
  const items = itemsChosen(props);
  const [first] = items;
  if (!first) return [];
  const dx = snapped(first.x + to[0] - from[0], props.snap) - first.x;
  const dy = snapped(first.y + to[1] - from[1], props.snap) - first.y;
  return items.map((one) => ({ ...one, x: snapped(one.x + dx, 0), y: snapped(one.y + dy, 0) }));
}

export function framed({ plan }: CanvasProps, { from, to }: Drag): string[] {
  const inside = (value: number, a: number, b: number) => value >= Math.min(a, b) && value <= Math.max(a, b);
  return plan.items
    .filter((one) => inside(one.x, from[0], to[0]) && inside(one.y, from[1], to[1]))
    .map((one) => one.id);
}

export function sceneOf(
  props: CanvasProps,
  view: PlanView,
  drag: Drag | null,
  image: HTMLImageElement | null,
  width: number,
  height: number,
): PlanScene {
  const moving =
    drag?.kind === "move" && drag.moved ? new Map(shifted(props, drag).map((one) => [one.id, one])) : null;
  const drawing = drag?.kind === "draw" && drag.moved;
  const { plan } = props;
  return {
    view,
    width,
    height,
    lamps: moving
      ? props.lamps.map((lamp) => ({ ...lamp, item: moving.get(lamp.item.id) ?? lamp.item }))
      : props.lamps,
    others: plan.items.filter((one) => one.kind !== "fixture").map((one) => moving?.get(one.id) ?? one),
    chosen: new Set(props.chosen),
    rgb: cells.rgb,
    labels: props.labels,
    coming: props.coming,
    grid: props.snap,
    picture: image
      ? { image, x: plan.picture_x, y: plan.picture_y, w: plan.picture_width_m, h: plan.picture_height_m }
      : null,
    drawn: drawing
      ? {
          kind: props.tool === "choose" || props.tool === "label" ? "frame" : props.tool,
          from: drag.from,
          to: drag.to,
        }
      : null,
  };
}
