import { useRef, useState } from "react";
import { answer, client, type Fault, type LookView, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { type Layer, layersOf, type Stop } from "../../model/layers";
import { endGesture, gesture } from "../../stores/live";
import { useView } from "../../stores/view";

export interface LayerEdits {
  /** The layer as it stands now, with what is being moved. */
  layer: Layer;
  fault: Fault | null;
  /** On the lamps at the next frame, not stored. */
  move: (changes: Partial<Layer>) => void;
  /** Stored once, one undo. */
  commit: (changes: Partial<Layer>) => Promise<unknown>;
  /** Colours: of the saved ramp with all lines that use it, or of this line alone. */
  moveRamp: (ramp: Stop[]) => void;
  commitRamp: (ramp: Stop[]) => Promise<unknown>;
  remove: () => Promise<unknown>;
  /** A copy above it, muted, so that nothing changes on the lamps until it is let loose. */
  duplicate: () => Promise<unknown>;
  /** One place up (+1) or down (-1) in the stack. */
  shift: (by: number) => Promise<unknown>;
}

/** Everything that can be done to one line of a look. */
export function useLayerEdits(show: WholeShow, look: LookView, stored: Layer): LayerEdits {
  const edit = useEdit();
  const [moving, setMoving] = useState<Partial<Layer>>({});
  const [fault, setFault] = useState<Fault | null>(null);
  /** The revision seen when a control began to move: what somebody else changed since is not overwritten unseen. */
  const pending = useRef(0);
  const seen = useRef<{ look: number; ramp: number } | null>(null);
  const params = { path: { look_id: look.id, layer_id: stored.id } };
  const saved = show.ramps.find((ramp) => ramp.id === stored.saved_ramp);
  const layer: Layer = { ...stored, ...(saved ? { ramp: saved.stops as Stop[] } : {}), ...moving };

  const begin = () => {
    seen.current ??= { look: look.rev, ramp: saved?.rev ?? 0 };
  };
  const move = (changes: Partial<Layer>) => {
    begin();
    setMoving((before) => ({ ...before, ...changes }));
    gesture(look.id, stored.id, changes);
  };
  /** Shows the new values at once, stores them, and lets go of them when nothing else is under way. */
  const finish = async (changes: Partial<Layer>, run: () => Promise<unknown>) => {
    setFault(null);
    setMoving((before) => ({ ...before, ...changes }));
    pending.current++;
    await edit(run, setFault);
    if (--pending.current > 0) return;
    endGesture(look.id);
    setMoving({});
    seen.current = null;
  };
  const commit = (changes: Partial<Layer>) => {
    const body = { ...changes, rev: seen.current?.look ?? look.rev } as Schemas["LayerPatch"];
    return finish(changes, () =>
      answer(client.PATCH("/api/looks/{look_id}/layers/{layer_id}", { params, body })),
    );
  };
  const users = () =>
    show.looks.flatMap((one) =>
      layersOf(one)
        .filter((other) => other.saved_ramp === saved?.id)
        .map((other) => [one.id, other.id] as const),
    );
  const moveRamp = (ramp: Stop[]) => {
    begin();
    setMoving((before) => ({ ...before, ramp }));
    if (saved) for (const [lookId, layerId] of users()) gesture(lookId, layerId, { ramp });
    else gesture(look.id, stored.id, { ramp });
  };
  const commitRamp = async (ramp: Stop[]) => {
    if (!saved) return commit({ ramp });
    const body = { stops: ramp, rev: seen.current?.ramp || saved.rev };
    await finish({ ramp }, () =>
      answer(client.PATCH("/api/ramps/{ramp_id}", { params: { path: { ramp_id: saved.id } }, body })),
    );
    for (const [lookId] of users()) endGesture(lookId);
  };
  const remove = () =>
    edit(() => answer(client.DELETE("/api/looks/{look_id}/layers/{layer_id}", { params })));
  const duplicate = async () => {
    const id = newId();
    const body = { ...stored, id, mute: true, solo: false, above: stored.id } as Schemas["NewLayer"];
    const path = { look_id: look.id };
    if (await edit(() => answer(client.POST("/api/looks/{look_id}/layers", { params: { path }, body }))))
      useView.setState({ layer: id });
  };
  const shift = async (by: number) => {
    const order = layersOf(look).map((one) => one.id);
    const at = order.indexOf(stored.id);
    const to = at + by;
    if (to < 0 || to >= order.length) return;
    order.splice(at, 1);
    order.splice(to, 0, stored.id);
    const path = { look_id: look.id };
    await edit(() =>
      answer(client.PATCH("/api/looks/{look_id}", { params: { path }, body: { order, rev: look.rev } })),
    );
  };
  return { layer, fault, move, commit, moveRamp, commitRamp, remove, duplicate, shift };
}
