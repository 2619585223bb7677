import { QueryClient, useQuery } from "@tanstack/react-query";
import { useCallback } from "react";
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

async function fetchShow(): Promise<WholeShow> {
  const known = queries.getQueryData<WholeShow>(["show"]);
  if (!known) return (await answer(client.GET("/api/show"))) as WholeShow;
  const query = { show: known.show.id, known: known.version };
  const changes = await answer(client.GET("/api/show/changes", { params: { query } }));
  return changed(known, changes as Schemas["ShowChanges"]);
}

export function useEffects() {
  return useQuery({
    queryKey: ["effects"],
    queryFn: async () => (await answer(client.GET("/api/effects"))) as EffectView[],
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

export function refreshShow(): Promise<void> {
  return queries.invalidateQueries({ queryKey: ["show"] });
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
