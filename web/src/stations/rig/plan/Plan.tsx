import { Box, Button } from "@mui/material";
import { useEffect, useMemo, useRef, useState } from "react";
import { answer, client, type PlanData, type Schemas, type WholeShow } from "../../../api/client";
import { newId } from "../../../api/person";
import { useEdit } from "../../../api/show";
import { Cap, Empty } from "../../../components/atoms";
import { type PlanItem, type Point, snapped } from "../../../model/plan";
import { useComing } from "../../../stores/coming";
import { useView } from "../../../stores/view";
import { RigFrame } from "../RigFrame";
import { MotionSaid } from "./MotionSaid";
import { PlanCanvas } from "./PlanCanvas";
import { PlanTools } from "./PlanTools";
import type { Tool } from "./planView";
import { useMotion } from "./useMotion";
import { usePlanLamps } from "./usePlanLamps";

type Way = Schemas["Arrangement"]["arrange"];

const LABEL: Omit<PlanItem, "id"> = {
  kind: "label",
  text: "Label",
  x: 0,
  y: 0,
  turn: 0,
  w: 1,
  h: 0.3,
  mirrored: false,
};

/** Where everything hangs, in metres: lamps in the colours that are sent. */
export function Plan() {
  return <RigFrame at="plan">{(show) => <PlanWork show={show} />}</RigFrame>;
}

/** The plan with its tools. `beside`: next to the table, with what is needed to look at it alone. */
export function PlanWork({ show, beside = false }: { show: WholeShow; beside?: boolean }) {
  const edit = useEdit();
  const [id, setId] = useState("");
  const [tool, setTool] = useState<Tool>("choose");
  const [snap, setSnap] = useState(0.5);
  const [labels, setLabels] = useState(true);
  const [fit, setFit] = useState(0);
  const [others, setOthers] = useState<string[]>([]);
  const fixtures = useView((view) => view.fixtures);
  const plan = show.plans.find((one) => one.id === id) ?? show.plans[0];
  const shown = plan?.id ?? "";
  useEffect(() => {
    useComing.setState({ plan: shown });
    return () => useComing.setState({ plan: "", items: [] });
  }, [shown]);
  const coming = useComing((all) => all.items);
  const motion = useMotion(show, plan);
  const lamps = usePlanLamps(show, plan, motion);
  const chosen = useMemo(() => [...fixtures, ...others], [fixtures, others]);
  useEffect(() => {
    const off = (event: KeyboardEvent) => event.key === "Escape" && setTool("choose");
    window.addEventListener("keydown", off);
    return () => window.removeEventListener("keydown", off);
  }, []);

  const put = (items: PlanItem[], label: string, remove: string[] = []) =>
    plan && items.length + remove.length
      ? edit(() =>
          answer(
            client.POST("/api/plans/{plan_id}/items", {
              params: { path: { plan_id: plan.id } },
              body: { put: items, remove, label },
            }),
          ),
        )
      : undefined;
  const arrange = (items: string[], how: Way) =>
    plan && items.length
      ? edit(() =>
          answer(
            client.POST("/api/plans/{plan_id}/arrange", {
              params: { path: { plan_id: plan.id } },
              body: { items, arrange: how },
            }),
          ),
        )
      : undefined;
  const placeBelow = (ids: string[]) =>
    void arrange(ids, { how: "below" })?.then(() => setFit((count) => count + 1));
  // Beside the table they come onto it in the edit that makes them: every desk has the Rig open.
  useNewOnes(show, beside ? undefined : plan, placeBelow);
  const add = () => {
    const body = {
      id: newId(),
      name: show.plans.length ? `Plan ${show.plans.length + 1}` : "Front elevation",
    };
    void edit(() => answer(client.POST("/api/plans", { body }))).then(() => setId(body.id));
  };
  if (!plan)
    return (
      <Box sx={{ flex: 1 }}>
        <Empty title="There is no plan yet">
          A plan shows where the lamps really hang, in metres, lit as they are sent. Put a picture of the
          building behind it, place fixtures in rows, as tiles or in rings, and find a lamp by where it is.
          <Box sx={{ mt: 2 }}>
            <Button color="primary" onClick={add}>
              Make a plan
            </Button>
          </Box>
        </Empty>
      </Box>
    );
  const choose = (ids: string[]) => {
    const known = new Set(show.fixtures.map((one) => one.id));
    useView.setState({ fixtures: ids.filter((one) => known.has(one)), parts: [], emitter: "" });
    setOthers(ids.filter((one) => !known.has(one)));
  };
  const drawn = (which: Exclude<Tool, "choose">, from: Point, to: Point) => {
    setTool("choose");
    const a: Point = [snapped(from[0], snap), snapped(from[1], snap)];
    const b: Point = [snapped(to[0], snap), snapped(to[1], snap)];
    if (which === "label") {
      const item: PlanItem = { ...LABEL, id: newId(), x: a[0], y: a[1] };
      void put([item], "Added a label");
      setOthers([item.id]);
      return;
    }
    void arrange(fixtures, { how: which, start: [...a], end: [...b] });
  };
  const missing = show.fixtures.filter((one) => !plan.items.some((item) => item.id === one.id));
  return (
    <>
      <PlanTools
        show={show}
        beside={beside}
        plan={plan}
        chosen={plan.items.filter((one) => chosen.includes(one.id))}
        fixtures={fixtures.length}
        tool={tool}
        snap={snap}
        labels={labels}
        onPlan={setId}
        onAdd={add}
        onTool={setTool}
        onSnap={setSnap}
        onLabels={setLabels}
        onFit={() => setFit(fit + 1)}
        onPut={put}
        onArrange={(how) =>
          arrange(
            plan.items.filter((one) => chosen.includes(one.id)).map((one) => one.id),
            how,
          )
        }
      />
      <PlanCanvas
        plan={plan}
        lamps={lamps}
        chosen={chosen}
        tool={tool}
        snap={snap}
        labels={labels}
        coming={coming}
        fit={fit}
        onChoose={choose}
        onMove={(items, label) => void put(items, label)}
        onDrawn={drawn}
        onRemove={(ids) => void put([], "Took off the plan", ids)}
      />
      {motion?.moves && <MotionSaid motion={motion} />}
      {missing.length > 0 && (
        <Box sx={{ display: "flex", alignItems: "center", gap: 1, px: 2, py: 0.75 }}>
          <Cap sx={{ flex: 1 }}>
            Not on this plan: {missing.length} {missing.length === 1 ? "fixture" : "fixtures"} (
            {missing
              .slice(0, 6)
              .map((one) => one.number)
              .join(", ")}
            {missing.length > 6 ? " ..." : ""})
          </Cap>
          <Button onClick={() => placeBelow(missing.map((one) => one.id))}>Place them below</Button>
        </Box>
      )}
    </>
  );
}

/** Fixtures that are added while the plan is open come to lie on it, in view. */
function useNewOnes(show: WholeShow, plan: PlanData | undefined, onNew: (ids: string[]) => void): void {
  const known = useRef<{ show: string; ids: Set<string> } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only other fixtures count
  useEffect(() => {
    const before = known.current;
    known.current = { show: show.show.id, ids: new Set(show.fixtures.map((one) => one.id)) };
    if (!plan || !before || before.show !== show.show.id) return;
    const placed = new Set(plan.items.map((one) => one.id));
    const fresh = show.fixtures.filter((one) => !before.ids.has(one.id) && !placed.has(one.id));
    if (fresh.length) onNew(fresh.map((one) => one.id));
  }, [show.fixtures]);
}
