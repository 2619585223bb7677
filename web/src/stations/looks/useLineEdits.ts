import { useRef, useState } from "react";
import {
  answer,
  client,
  type Fault,
  type LookView,
  problemOf,
  type Schemas,
  type WholeShow,
} from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow, useEdit } from "../../api/show";
import { type Line, type LineChanges, moved, type Stop } from "../../model/lines";
import { letGo, moveAll, type Value } from "../../stores/hands";
import { useView } from "../../stores/view";

export interface LineEdits {
  /** The line as it stands now, with what is being moved. */
  line: Line;
  fault: Fault | null;
  /** On the lamps at the next frame, not stored. */
  move: (changes: LineChanges) => void;
  /** Lets go of what was only moved: all is as it is stored. */
  leave: () => void;
  /** Stored once, one undo. */
  commit: (changes: LineChanges) => Promise<unknown>;
  /** Stored as it was typed; the sentence that says what is wrong where it is refused. */
  type: (changes: Schemas["LinePatch"]) => Promise<string>;
  /** Lets another number of the line be moved as the first one is; what is wrong, if it cannot be. */
  copyDrive: (look: string, name: string, to: string) => Promise<string>;
  /** Another line of the look. */
  other: (line: string, changes: Schemas["LinePatch"]) => Promise<unknown>;
  /** Colours: of the saved ramp with all lines that use it, or of this line alone. */
  moveRamp: (ramp: Stop[]) => void;
  commitRamp: (ramp: Stop[]) => Promise<unknown>;
  remove: () => Promise<unknown>;
  /** An effect's parameters, colours and speed drawn anew within what reads well. */
  surprise: () => Promise<unknown>;
  /** A copy above it, muted, so that nothing changes on the lamps until it is let loose. */
  duplicate: () => Promise<unknown>;
  /** One place up (+1) or down (-1) in the stack. */
  shift: (by: number) => Promise<unknown>;
}

/** The handles of a line's fields, with what they are moved to. */
function handlesOf(look: string, line: string, changes: LineChanges): { handle: string; value: Value }[] {
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
  const [moving, setMoving] = useState<LineChanges>({});
  const [fault, setFault] = useState<Fault | null>(null);
  /** The revision seen when a control began to move: what somebody else changed since is not overwritten unseen. */
  const pending = useRef(0);
  const seen = useRef<{ look: number; ramp: number } | null>(null);
  const params = { path: { look_id: look.id, line_id: stored.id } };
  const saved = show.ramps.find((ramp) => ramp.id === stored.saved_ramp);
  const line = moved(stored, { ...(saved ? { ramp: saved.stops } : {}), ...moving });

  /** Handles that this control holds until what it stored plays. */
  const held = useRef(new Set<string>());
  const hold = (moves: { handle: string; value: Value }[]) => {
    for (const { handle } of moves) held.current.add(handle);
    moveAll(moves);
  };
  const begin = () => {
    seen.current ??= { look: look.rev, ramp: saved?.rev ?? 0 };
  };
  const move = (changes: LineChanges) => {
    begin();
    setMoving((before) => ({ ...before, ...changes }));
    hold(handlesOf(look.id, stored.id, changes));
  };
  /** Shows the new values at once, stores them, and lets go of them when nothing else is under way. */
  const finish = async (changes: LineChanges, run: () => Promise<unknown>) => {
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
  const leave = () => {
    if (pending.current > 0 || !held.current.size) return;
    letGo([...held.current]);
    held.current.clear();
    setMoving({});
    seen.current = null;
  };
  const commit = (changes: LineChanges) => {
    const body = { ...changes, rev: seen.current?.look ?? look.rev };
    return finish(changes, () =>
      answer(client.PATCH("/api/looks/{look_id}/lines/{line_id}", { params, body })),
    );
  };
  const type = async (changes: Schemas["LinePatch"]) => {
    const body = { ...changes, rev: look.rev };
    const problem = await problemOf(() =>
      answer(client.PATCH("/api/looks/{look_id}/lines/{line_id}", { params, body })),
    );
    await refreshShow();
    return problem;
  };
  const other = (line_id: string, changes: Schemas["LinePatch"]) =>
    edit(
      () =>
        answer(
          client.PATCH("/api/looks/{look_id}/lines/{line_id}", {
            params: { path: { look_id: look.id, line_id } },
            body: { ...changes, rev: look.rev },
          }),
        ),
      setFault,
    );
  const copyDrive = async (look_id: string, name: string, to: string) => {
    const path = { look_id, line_id: stored.id, name };
    const body = { to, rev: look.rev };
    const problem = await problemOf(() =>
      answer(
        client.POST("/api/looks/{look_id}/lines/{line_id}/drives/{name}/copy", { params: { path }, body }),
      ),
    );
    await refreshShow();
    return problem;
  };
  const users = () =>
    show.looks.flatMap((one) =>
      one.lines.filter((other) => other.saved_ramp === saved?.id).map((other) => [one.id, other.id] as const),
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
  const surprise = () =>
    edit(
      () =>
        answer(
          client.POST("/api/looks/{look_id}/lines/{line_id}/surprise", { params, body: { rev: look.rev } }),
        ),
      setFault,
    );
  const duplicate = async () => {
    const id = newId();
    const body = { id };
    if (await edit(() => answer(client.POST("/api/looks/{look_id}/lines/{line_id}/copy", { params, body }))))
      useView.setState({ line: id });
  };
  const shift = async (by: number) => {
    const order = look.lines.map((one) => one.id);
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
  return {
    line,
    fault,
    move,
    leave,
    commit,
    type,
    copyDrive,
    other,
    moveRamp,
    commitRamp,
    remove,
    surprise,
    duplicate,
    shift,
  };
}
