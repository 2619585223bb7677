import { Box } from "@mui/material";
import { useEffect, useRef } from "react";
import { eachFrame, same } from "../../../canvas/eachFrame";
import { paintPlan } from "../../../canvas/planPainter";
import { boundsOf, cornersOf, type PlanView, type Point } from "../../../model/plan";
import { clamp } from "../../../model/values";
import { watchCells } from "../../../stores/live";
import { cells } from "../../../stores/pictures";
import { ink, themeNow } from "../../../theme/tokens";
import {
  type CanvasProps,
  type Drag,
  fittedTo,
  framed,
  inView,
  itemsChosen,
  sceneOf,
  shifted,
} from "./planView";
import { itemAt } from "./usePlanLamps";

const CLICK_PX = 3;

/** The plan: wheel zooms, space or the middle button pans, a drag moves what is chosen or frames what is not. */
export function PlanCanvas(props: CanvasProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const view = useRef<PlanView>({ scale: 40, x: 0, y: 0 });
  const drag = useRef<Drag | null>(null);
  const now = useRef(props);
  now.current = props;
  const space = useRef(false);
  const image = useRef<HTMLImageElement | null>(null);

  useEffect(() => watchCells(), []);
  useEffect(() => {
    image.current = null;
    if (!props.plan.picture) return;
    const next = new Image();
    next.src = `/api/plans/pictures/${props.plan.picture}`;
    image.current = next;
  }, [props.plan.picture]);

  const showAll = () => {
    const box = canvas.current?.getBoundingClientRect();
    if (box) view.current = fittedTo(now.current, box);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: another plan, or somebody asked
  useEffect(showAll, [props.plan.id, props.fit]);
  // What would come is in view before it comes.
  useEffect(() => {
    const box = canvas.current?.getBoundingClientRect();
    const bounds = boundsOf(props.coming.flatMap(cornersOf));
    if (box && bounds && !inView(bounds, view.current, box.width, box.height))
      view.current = fittedTo(now.current, box);
  }, [props.coming]);

  useEffect(() => {
    let seen: unknown[] = [];
    const draw = () => {
      const target = canvas.current;
      const context = target?.getContext("2d");
      if (!target || !context) return;
      const { clientWidth: width, clientHeight: height } = target;
      const ratio = window.devicePixelRatio;
      const { scale, x, y } = view.current;
      const behind = image.current?.complete;
      const state = [now.current, scale, x, y, width, height, ratio, behind, themeNow(), cells.rgb];
      if (!drag.current && same(state, seen)) return;
      seen = drag.current ? [] : state; // what was dragged is drawn once more where it came to lie
      if (target.width !== width * ratio || target.height !== height * ratio) {
        target.width = width * ratio;
        target.height = height * ratio;
      }
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      paintPlan(context, sceneOf(now.current, view.current, drag.current, image.current, width, height));
    };
    return eachFrame(draw);
  }, []);

  const pointAt = (event: { clientX: number; clientY: number }): Point => {
    const box = canvas.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const { scale, x, y } = view.current;
    return [
      x + (event.clientX - box.left - box.width / 2) / scale,
      y - (event.clientY - box.top - box.height / 2) / scale,
    ];
  };

  const down = (event: React.PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    canvas.current?.focus();
    const from = pointAt(event);
    const { lamps, plan, chosen, tool, onChoose } = now.current;
    let kind: Drag["kind"] = "draw";
    if (event.button === 1 || space.current) kind = "pan";
    else if (tool === "choose") {
      const others = plan.items.filter((one) => one.kind !== "fixture");
      const hit = itemAt(lamps, others, from, 5 / view.current.scale);
      if (hit) {
        kind = "move";
        if (event.shiftKey || event.ctrlKey)
          onChoose(chosen.includes(hit) ? chosen.filter((id) => id !== hit) : [...chosen, hit]);
        else if (!chosen.includes(hit)) onChoose([hit]);
      }
    }
    drag.current = { kind, from, to: from, began: [event.clientX, event.clientY], moved: false };
  };
  const move = (event: React.PointerEvent) => {
    const going = drag.current;
    if (!going) return;
    const [x, y] = going.began;
    going.moved ||= Math.hypot(event.clientX - x, event.clientY - y) > CLICK_PX;
    if (going.kind === "pan") {
      const at = pointAt(event);
      view.current = {
        ...view.current,
        x: view.current.x + going.from[0] - at[0],
        y: view.current.y + going.from[1] - at[1],
      };
    } else going.to = pointAt(event);
  };
  const up = () => {
    const going = drag.current;
    drag.current = null;
    if (!going) return;
    const { tool, onDrawn, onMove, onChoose } = now.current;
    if (going.kind === "move" && going.moved) onMove(shifted(now.current, going), "Moved on the plan");
    if (going.kind !== "draw") return;
    if (tool !== "choose") onDrawn(tool, going.from, going.to);
    else onChoose(going.moved ? framed(now.current, going) : []);
  };
  const wheel = (event: React.WheelEvent) => {
    const before = pointAt(event);
    const { scale } = view.current;
    view.current = { ...view.current, scale: clamp(scale * 1.0015 ** -event.deltaY, 0.2, 600) };
    const after = pointAt(event);
    view.current = {
      ...view.current,
      x: view.current.x + before[0] - after[0],
      y: view.current.y + before[1] - after[1],
    };
  };
  const onKey = (event: React.KeyboardEvent) => {
    const step = now.current.snap || 0.1;
    const steps: Record<string, Point> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const by = steps[event.key];
    const chosen = itemsChosen(now.current);
    if (by && chosen.length)
      now.current.onMove(
        chosen.map((one) => ({ ...one, x: one.x + by[0], y: one.y + by[1] })),
        "Moved on the plan",
      );
    else if (event.key === "f" || event.key === "F") showAll();
    else if (event.key === "+" || event.key === "-")
      view.current = { ...view.current, scale: view.current.scale * (event.key === "+" ? 1.25 : 0.8) };
    else if (event.key === "Delete" && chosen.length) now.current.onRemove(chosen.map((one) => one.id));
    else if (event.key === " ") space.current = event.type === "keydown";
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box sx={{ flex: 1, minHeight: 0, position: "relative" }}>
      <canvas
        data-live
        ref={canvas}
        tabIndex={0}
        role="application"
        aria-label={`Plan ${props.plan.name}`}
        style={{
          width: "100%",
          height: "100%",
          display: "block",
          touchAction: "none",
          outlineColor: ink.brass,
          cursor: props.tool === "choose" ? "default" : "crosshair",
        }}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={() => {
          drag.current = null;
        }}
        onWheel={wheel}
        onKeyDown={onKey}
        onKeyUp={(event) => {
          if (event.key === " ") space.current = false;
        }}
      />
    </Box>
  );
}
