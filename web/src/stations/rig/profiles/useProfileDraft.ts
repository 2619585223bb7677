import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { answer, client, type Fault, isFault, type Schemas } from "../../../api/client";
import { queries, refreshShow } from "../../../api/show";
import { notify } from "../../../stores/notices";

type With<T, Lists> = Omit<T, keyof Lists> & Lists;

/** A profile with everything: what a request may leave out, an answer always has. */
export type Range = Schemas["RangeBody"];
export type Channel = With<Schemas["ChannelBody"], { ranges: Range[] }>;
export type Block = With<
  Schemas["BlockBody"],
  { shared: Channel[]; cell_channels: Channel[]; cell_names: string[] }
>;
export type Mode = With<Schemas["ModeBody"], { blocks: Block[] }>;
export type Whole = With<Schemas["WholeProfile"], { modes: Mode[] }>;

/** Typing settles for so long before a change is stored, ms. */
const SETTLE_MS = 350;

interface Draft {
  profile: Whole | undefined;
  error: Fault | null;
  /** Changes the profile; it is stored at once unless fixtures would change by it. */
  change: (next: Whole) => void;
  /** What waits to be confirmed: fixtures that would change. */
  plan: Schemas["ChangePlan"] | null;
  apply: () => Promise<void>;
  takeBack: () => void;
}

/** A profile as it is edited. Every change is first asked for what it would do to fixtures. */
export function useProfileDraft(id: string | undefined): Draft {
  const { data, error, refetch } = useQuery<Whole, Fault>({
    queryKey: ["show", "profile", id],
    enabled: Boolean(id),
    queryFn: async () =>
      (await answer(
        client.GET("/api/profiles/{profile_id}", { params: { path: { profile_id: id ?? "" } } }),
      )) as Whole,
  });
  const [draft, setDraft] = useState<Whole | null>(null);
  const [plan, setPlan] = useState<Schemas["ChangePlan"] | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const turn = useRef(0);

  // biome-ignore lint/correctness/useExhaustiveDependencies: another profile, another draft
  useEffect(() => {
    setDraft(null);
    setPlan(null);
  }, [id]);
  const store = useCallback(
    async (next: Whole, mine: number) => {
      try {
        await answer(
          client.PUT("/api/profiles/{profile_id}", {
            params: { path: { profile_id: next.id } },
            body: bodyOf(next),
          }),
        );
        setPlan(null);
        await Promise.all([refreshShow(), refetch()]);
        // What was typed meanwhile is a later draft, and stays.
        if (mine === turn.current) setDraft(null);
      } catch (fault) {
        if (!isFault(fault)) throw fault;
        notify(fault);
        if (fault.status === 409) {
          setDraft(null);
          setPlan(null);
          await refetch();
        }
      }
    },
    [refetch],
  );

  const change = useCallback(
    (next: Whole) => {
      setDraft(next);
      clearTimeout(timer.current);
      const mine = ++turn.current;
      timer.current = setTimeout(async () => {
        const found = await answer(
          client.POST("/api/profiles/{profile_id}/plan", {
            params: { path: { profile_id: next.id } },
            body: bodyOf(next),
          }),
        ).catch((fault: Fault) => ({ fixtures: [], problem: fault.what, repair: fault.repair }));
        if (mine !== turn.current) return;
        if (found.problem || found.fixtures.length) setPlan(found);
        else await store(next, mine);
      }, SETTLE_MS);
    },
    [store],
  );
  return {
    profile: draft ?? data,
    error: error ?? null,
    change,
    plan,
    apply: async () => {
      if (draft) await store(draft, turn.current);
    },
    takeBack: () => {
      turn.current++;
      clearTimeout(timer.current);
      setDraft(null);
      setPlan(null);
      void queries.invalidateQueries({ queryKey: ["show", "profile", id] });
    },
  };
}

function bodyOf({ id: _id, manual_name: _manual, fixtures: _fixtures, ...body }: Whole) {
  return body as Schemas["ProfileChange"];
}

/** The profile with one mode changed; a mode that gets another name remembers which it was. */
export function withMode(profile: Whole, at: number, mode: Partial<Mode>): Whole {
  const modes = profile.modes.map((one, index) => {
    if (index !== at) return one;
    const was = mode.name && mode.name !== one.name && !one.was ? one.name : one.was;
    return { ...one, ...mode, was };
  });
  return { ...profile, modes };
}

export function withBlock(profile: Whole, mode: number, at: number, block: Partial<Block>): Whole {
  const blocks = profile.modes[mode]?.blocks.map((one, index) => (index === at ? { ...one, ...block } : one));
  return withMode(profile, mode, { blocks });
}
