import { useRef, useState } from "react";
import { answer, client, type Fault, type LookView, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { type Line, linesOf, type Stop } from "../../model/lines";
import { letGo, moveAll, type Value } from "../../stores/hands";
import { useView } from "../../stores/view";

export interface LineEdits {
  /** The line as it stands now, with what is being moved. */
  line: Line;
  fault: Fault | null;
  /** On the lamps at the next frame, not stored. */
  move: (changes: Partial<Line>) => void;
  /** Stored once, one undo. */
  commit: (changes: Partial<Line>) => Promise<unknown>;
  /** Colours: of the saved ramp with all lines that use it, or of this line alone. */
  moveRamp: (ramp: Stop[]) => void;
  commitRamp: (ramp: Stop[]) => Promise<unknown>;
  remove: () => Promise<unknown>;
  /** A copy above it, muted, so that nothing changes on the lamps until it is let loose. */
  duplicate: () => Promise<unknown>;
  /** One place up (+1) or down (-1) in the stack. */
  shift: (by: number) => Promise<unknown>;
}

/** The handles of a line's fields, with what they are moved to. */
function handlesOf(look: string, line: string, changes: Partial<Line>): { handle: string; value: Value }[] {
  const at = (name: string) => `look/${look}/${line}/${name}`;
  const { params, mute, ...fields } = changes;
  return [
    ...Object.entries(fields).map(([name, value]) => ({ handle: at(name), value: value as Value })),
    ...(mute === undefined ? [] : [{ handle: at("on"), value: !mute }]),
    ...Object.entries(params ?? {}).map(([name, value]) => ({ handle: at(name), value })),
  ];
}

/** Everything that can be done to one line of a look. */
export function useLineEdits(show: WholeShow, look: LookView, stored: Line): LineEdits {
  const edit = useEdit();
  const [moving, setMoving] = useState<Partial<Line>>({});
  const [fault, setFault] = useState<Fault | null>(null);
  /** The revision seen when a control began to move: what somebody else changed since is not overwritten unseen. */
  const pending = useRef(0);
  const seen = useRef<{ look: number; ramp: number } | null>(null);
  const params = { path: { look_id: look.id, line_id: stored.id } };
  const saved = show.ramps.find((ramp) => ramp.id === stored.saved_ramp);
  const line: Line = { ...stored, ...(saved ? { ramp: saved.stops as Stop[] } : {}), ...moving };

  /** Handles that this control holds until what it stored plays. */
  const held = useRef(new Set<string>());
  const hold = (moves: { handle: string; value: Value }[]) => {
    for (const { handle } of moves) held.current.add(handle);
    moveAll(moves);
  };
  const begin = () => {
    seen.current ??= { look: look.rev, ramp: saved?.rev ?? 0 };
  };
  const move = (changes: Partial<Line>) => {
    begin();
    setMoving((before) => ({ ...before, ...changes }));
    hold(handlesOf(look.id, stored.id, changes));
  };
  /** Shows the new values at once, stores them, and lets go of them when nothing else is under way. */
  const finish = async (changes: Partial<Line>, run: () => Promise<unknown>) => {
    setFault(null);
    setMoving((before) => ({ ...before, ...changes }));
    pending.current++;
    await edit(run, setFault);
    if (--pending.current > 0) return;
    letGo([...held.current]);
    held.current.clear();
    setMoving({});
    seen.current = null;
  };
  const commit = (changes: Partial<Line>) => {
    const body = { ...changes, rev: seen.current?.look ?? look.rev } as Schemas["LinePatch"];
    return finish(changes, () =>
      answer(client.PATCH("/api/looks/{look_id}/lines/{line_id}", { params, body })),
    );
  };
  const users = () =>
    show.looks.flatMap((one) =>
      linesOf(one)
        .filter((other) => other.saved_ramp === saved?.id)
        .map((other) => [one.id, other.id] as const),
    );
  const moveRamp = (ramp: Stop[]) => {
    begin();
    setMoving((before) => ({ ...before, ramp }));
    const of = saved ? users() : [[look.id, stored.id] as const];
    hold(of.flatMap(([one, line]) => handlesOf(one, line, { ramp })));
  };
  const commitRamp = async (ramp: Stop[]) => {
    if (!saved) return commit({ ramp });
    const body = { stops: ramp, rev: seen.current?.ramp || saved.rev };
    await finish({ ramp }, () =>
      answer(client.PATCH("/api/ramps/{ramp_id}", { params: { path: { ramp_id: saved.id } }, body })),
    );
  };
  const remove = () => edit(() => answer(client.DELETE("/api/looks/{look_id}/lines/{line_id}", { params })));
  const duplicate = async () => {
    const id = newId();
    const body = { ...stored, id, mute: true, solo: false, above: stored.id } as Schemas["NewLine"];
    const path = { look_id: look.id };
    if (await edit(() => answer(client.POST("/api/looks/{look_id}/lines", { params: { path }, body }))))
      useView.setState({ line: id });
  };
  const shift = async (by: number) => {
    const order = linesOf(look).map((one) => one.id);
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
  return { line, fault, move, commit, moveRamp, commitRamp, remove, duplicate, shift };
}
