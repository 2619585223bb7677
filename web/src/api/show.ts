import { QueryClient, useQuery } from "@tanstack/react-query";
import { useCallback, useDeferredValue, useEffect } from "react";
import { changed } from "../model/changes";
import { notify } from "../stores/notices";
import { answer, client, type EffectView, type Fault, isFault, type Schemas, type WholeShow } from "./client";

export const queries = new QueryClient({
  defaultOptions: { queries: { retry: 2, staleTime: Number.POSITIVE_INFINITY, refetchOnWindowFocus: false } },
});

/** The running show. Fetched whenever the live connection tells of a new revision: after the first time only what changed. */
export function useShow() {
  return useQuery<WholeShow, Fault>({ queryKey: ["show"], queryFn: fetchShow, structuralSharing: false });
}

/**
 * The running show for a station: what an edit changed is drawn in slices between two frames of the screen, so that no
 * edit makes a drag stutter. What is drawn from it is memoised.
 */
export function useShownShow() {
  const { data, error } = useShow();
  const drawn = useDeferredValue(data);
  useEffect(() => {
    stations += 1;
    return () => {
      stations -= 1;
      settle();
    };
  }, []);
  useEffect(() => {
    last = drawn;
    settle();
  }, [drawn]);
  return { data: drawn, error };
}

/** Stations that draw in slices, the show one of them drew last, and edits that wait for it. */
let stations = 0;
let last: WholeShow | undefined;
const waiting: (() => void)[] = [];
const DRAWN_MS = 1_000;

const isDrawn = (): boolean => !stations || last === queries.getQueryData<WholeShow>(["show"]);

function settle(): void {
  if (isDrawn()) for (const done of waiting.splice(0)) done();
}

/** An edit is over once what it changed is drawn: what a hand holds until then must not fall back for a moment. */
function untilDrawn(): Promise<void> {
  if (isDrawn()) return Promise.resolve();
  return new Promise((done) => {
    waiting.push(done);
    setTimeout(done, DRAWN_MS);
  });
}

async function fetchShow(): Promise<WholeShow> {
  const known = queries.getQueryData<WholeShow>(["show"]);
  if (!known) return (await answer(client.GET("/api/show"))) as WholeShow;
  const query = { show: known.show.id, known: known.version };
  const changes = await answer(client.GET("/api/show/changes", { params: { query } }));
  return changed(known, changes as Schemas["ShowChanges"]);
}

/** The effects; for a matrix, with why one does not read well on it. */
export function useEffects(matrix?: { width: number; height: number }) {
  const size = matrix ? { width: matrix.width, height: matrix.height } : undefined;
  return useQuery({
    queryKey: ["effects", size],
    queryFn: async () => {
      const params = size ? { query: size } : {};
      return (await answer(client.GET("/api/effects", { params }))) as EffectView[];
    },
  });
}

/** Fetches the show again unless what is here, or on its way here, is as new as that revision: one's own edits
 * fetch it already, and a second request would throw the first one's answer away. */
export async function catchUp(show: string, revision: number): Promise<void> {
  for (let turn = 0; turn < 2; turn++) {
    const known = queries.getQueryData<WholeShow>(["show"]);
    if (known?.show.id === show && known.show.revision >= revision) return;
    await queries.invalidateQueries({ queryKey: ["show"] }, { cancelRefetch: false });
  }
}

export async function refreshShow(): Promise<void> {
  await queries.invalidateQueries({ queryKey: ["show"] });
  await untilDrawn();
}

/**
 * Runs an edit and fetches the show again. Faults are told at the foot of the screen, unless `here`
 * takes them to show beside their cause. Resolves to whether it was done.
 */
export function useEdit() {
  return useCallback(async (run: () => Promise<unknown>, here?: (fault: Fault) => void): Promise<boolean> => {
    try {
      await run();
      await refreshShow();
      return true;
    } catch (fault) {
      if (!isFault(fault)) throw fault;
      if (here) here(fault);
      else notify(fault);
      if (fault.status === 409 || fault.status === 404) await refreshShow();
      return false;
    }
  }, []);
}
