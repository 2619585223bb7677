import { useQuery } from "@tanstack/react-query";
import { create } from "zustand";
import { answer, client, type Fault, isFault, type Schemas, type WholeShow } from "../../../api/client";
import { queries, refreshShow } from "../../../api/show";
import { type Atom, emittersOf, type MarkKind, oneAtom, type WalkView } from "../../../model/walks";
import { notify } from "../../../stores/notices";

const KEY = ["walk"];

/** The test walk that is on, for everybody; fetched again whenever it goes on. */
export function useWalk(): WalkView | undefined {
  const { data } = useQuery<WalkView, Fault>({
    queryKey: KEY,
    queryFn: async () => (await answer(client.GET("/api/walk"))) as WalkView,
    refetchInterval: 2000,
  });
  return data;
}

/** Asks that wait for an answer of the person: where it really lit, or which colours it showed. */
export interface Asking {
  ask:
    | null
    | { what: "place"; of: Atom }
    | { what: "colour"; of: Atom; emitters: string[]; at: number; seen: Record<string, string[]> };
  /** The lamp that was pointed at where a step lights many. */
  pointed: Atom | null;
}

export const useAsking = create<Asking>(() => ({ ask: null, pointed: null }));

/** Takes an answer of the server as the walk's new state; what was refused is told, or handed to `here`. */
export async function doing(
  run: Promise<{ data?: unknown; error?: unknown; response: Response }>,
  here?: (fault: Fault) => void,
): Promise<boolean> {
  try {
    queries.setQueryData(KEY, await answer(run));
    return true;
  } catch (fault) {
    if (!isFault(fault)) throw fault;
    (here ?? notify)(fault);
    return false;
  }
}

const settle = () => useAsking.setState({ ask: null, pointed: null });

export const go = (body: Partial<Schemas["WalkGo"]>) => {
  settle();
  return doing(client.POST("/api/walk/go", { body: { cell: 0, ...body } }));
};

export const change = (body: Schemas["WalkPatch"]) => doing(client.PATCH("/api/walk", { body }));

export const stop = () => {
  settle();
  return doing(client.DELETE("/api/walk"));
};

/** Marks what the step is about (or the lamp pointed at), and goes on where that is the way of the walk. */
export async function mark(
  walk: WalkView,
  kind: MarkKind,
  more: { seen?: Record<string, unknown>; onward?: boolean; of?: Atom } = {},
): Promise<void> {
  const of = more.of ?? useAsking.getState().pointed;
  const stepwise = walk.by === "cell" || walk.by === "fixture";
  const body: Schemas["NewMark"] = {
    kind,
    onward: more.onward ?? false,
    seen: more.seen ?? {},
    go: stepwise && !(more.onward ?? false),
    ...(of ? { cells: [of] } : {}),
  };
  try {
    await answer(client.POST("/api/marks", { body }));
    settle();
    await Promise.all([refreshShow(), queries.invalidateQueries({ queryKey: KEY })]);
  } catch (fault) {
    if (!isFault(fault)) throw fault;
    notify(fault);
  }
}

/** A mark that needs no more words is set; the others ask first. Says what is missing, or nothing. */
export async function press(walk: WalkView, show: WholeShow, kind: MarkKind): Promise<string> {
  if (kind === "good" || kind === "dark") {
    await mark(walk, kind);
    return "";
  }
  const of = useAsking.getState().pointed ?? oneAtom(walk);
  if (!of) return "This step lights several lamps: point at the one you mean first.";
  if (kind === "wrong place") useAsking.setState({ ask: { what: "place", of } });
  else {
    const emitters = emittersOf(
      show.fixtures.find((one) => one.id === of[0]),
      show.profiles,
    );
    const [first] = emitters;
    if (!first) {
      await mark(walk, kind, { of });
      return "";
    }
    useAsking.setState({ ask: { what: "colour", of, emitters, at: 0, seen: {} } });
    await change({ emitter: first });
  }
  return "";
}

/** Takes the answer to "what does it show?", lights the next emitter, and marks after the last. */
export async function answerColour(walk: WalkView, seen: string[]): Promise<void> {
  const { ask } = useAsking.getState();
  if (ask?.what !== "colour") return;
  const lit = ask.emitters[ask.at] ?? "";
  const all = { ...ask.seen, [lit]: seen };
  const next = ask.emitters[ask.at + 1];
  if (next) {
    useAsking.setState({ ask: { ...ask, at: ask.at + 1, seen: all } });
    await change({ emitter: next });
    return;
  }
  useAsking.setState({ ask: null });
  await change({ emitter: "" });
  await mark(walk, "wrong colour", { seen: all, of: ask.of });
}

export async function cancelAsk(): Promise<void> {
  const colour = useAsking.getState().ask?.what === "colour";
  settle();
  if (colour) await change({ emitter: "" });
}
