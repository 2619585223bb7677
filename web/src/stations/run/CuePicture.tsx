import { memo, useEffect, useMemo, useRef } from "react";
import type { PlanData, WholeShow } from "../../api/client";
import { eachFrame, same } from "../../canvas/eachFrame";
import { type PlanLamp, paintPlan } from "../../canvas/planPainter";
import { paintWalls, wallsOf } from "../../canvas/wallPainter";
import { boundsOf, cornersOf, fitted, type PlanView } from "../../model/plan";
import { watchCells } from "../../stores/live";
import { cells } from "../../stores/pictures";
import { themeNow } from "../../theme/tokens";
import { usePlanLamps } from "../rig/plan/usePlanLamps";

const EVERY_MS = 66;
/** Of more cells, or without a plan, the matrices are shown side by side: lamp by lamp a plan would be drawn too slowly. */
const ON_PLAN = 6_000;
const NOBODY = new Set<string>();

interface PictureProps {
  show: WholeShow;
  label: string;
  /** A cue whose picture at the end of its fade is shown; without one what is sent. */
  cue?: string | undefined;
  list?: string;
  height: number | string;
}

/** The first plan, or the matrices where there is none, its lamps lit as they are sent, or as they would be once a cue stands. */
export const CuePicture = memo(function CuePicture({ show, label, cue, list, height }: PictureProps) {
  const cellCount = useMemo(() => show.fixtures.reduce((sum, one) => sum + one.cells, 0), [show.fixtures]);
  const plan = cellCount > ON_PLAN ? undefined : show.plans[0];
  const lamps = usePlanLamps(show, plan);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only these say where cells lie
  const walls = useMemo(() => (plan ? [] : wallsOf(show)), [plan, show.fixtures, show.matrices]);
  const canvas = useRef<HTMLCanvasElement>(null);
  const ahead = useCellsAhead(list, cue);
  const image = usePlanImage(plan?.picture);
  const view = useMemo(() => (plan ? bounds(plan) : null), [plan]);
  const now = useRef({ plan, lamps, walls });
  now.current = { plan, lamps, walls };
  useEffect(() => (cue ? undefined : watchCells()), [cue]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: drawn anew for another cue
  useEffect(() => {
    let drawn = 0;
    let seen: unknown[] = [];
    const draw = (at: number) => {
      const target = canvas.current;
      const context = target?.getContext("2d");
      if (!target || !context || at - drawn < EVERY_MS) return;
      drawn = at;
      const { clientWidth: width, clientHeight: tall } = target;
      const ratio = window.devicePixelRatio;
      const rgb = cue ? ahead.current : cells.rgb;
      const state = [rgb, now.current, width, tall, ratio, image.current?.complete, themeNow()];
      if (same(state, seen)) return;
      seen = state;
      if (target.width !== width * ratio || target.height !== tall * ratio) {
        target.width = width * ratio;
        target.height = tall * ratio;
      }
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      if (!now.current.plan) return paintWalls(context, now.current.walls, rgb, width, tall);
      paintPlan(context, scene(now.current.plan, now.current.lamps, view, width, tall, rgb, image.current));
    };
    return eachFrame(draw);
  }, [cue, view]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      data-live
      style={{ width: "100%", height, display: "block", borderRadius: 3 }}
    />
  );
});

/** The picture behind a plan, once it is there. */
function usePlanImage(picture: string | undefined): React.RefObject<HTMLImageElement | null> {
  const image = useRef<HTMLImageElement | null>(null);
  useEffect(() => {
    image.current = null;
    if (!picture) return;
    const next = new Image();
    next.src = `/api/plans/pictures/${picture}`;
    image.current = next;
  }, [picture]);
  return image;
}

/** The colours of all cells once a cue stands, asked for again and again while it is looked at. */
function useCellsAhead(list: string | undefined, cue: string | undefined): React.RefObject<Uint8Array> {
  const rgb = useRef(new Uint8Array());
  useEffect(() => {
    rgb.current = new Uint8Array();
    if (!cue || !list) return;
    let over = false;
    const ask = async () => {
      while (!over) {
        const answered = document.hidden
          ? null
          : await fetch(`/api/lists/${list}/cues/${cue}/cells`).catch(() => null);
        if (answered?.status === 200 && !over) rgb.current = new Uint8Array(await answered.arrayBuffer());
        await new Promise((done) => setTimeout(done, answered?.status === 200 ? AHEAD_MS : SLOWLY_MS));
      }
    };
    void ask();
    return () => {
      over = true;
    };
  }, [list, cue]);
  return rgb;
}

/** No room is left for numbers. */
const CLOSER = 1.1;
const AHEAD_MS = 200;
const SLOWLY_MS = 600;

function bounds(plan: PlanData) {
  return boundsOf(plan.items.filter((one) => one.kind === "fixture").flatMap(cornersOf));
}

function scene(
  plan: PlanData | undefined,
  lamps: PlanLamp[],
  whole: ReturnType<typeof bounds> | null,
  width: number,
  height: number,
  rgb: Uint8Array,
  image: HTMLImageElement | null,
) {
  const around = whole ? fitted(whole, width, height) : { scale: 20, x: 0, y: 0 };
  const view: PlanView = { ...around, scale: around.scale * CLOSER };
  return {
    view,
    width,
    height,
    lamps,
    others: [],
    chosen: NOBODY,
    rgb,
    labels: false,
    grid: 0,
    bare: true,
    picture:
      image && plan
        ? { image, x: plan.picture_x, y: plan.picture_y, w: plan.picture_width_m, h: plan.picture_height_m }
        : null,
    drawn: null,
  };
}
