import { useEffect, useMemo } from "react";
import type { PlanData, WholeShow } from "../../../api/client";
import type { PlanLamp } from "../../../canvas/planPainter";
import { attributesOf, chosenRuns, levelOf, type Place } from "../../../model/manual";
import { beamOf, facePoints, type Point } from "../../../model/plan";
import { useLive, watchLevels } from "../../../stores/live";
import { levels } from "../../../stores/pictures";

import type { Motion } from "./useMotion";

const NO_ONE: string[] = [];

/** The fixtures of a plan with all that is needed to draw them; heads know where they point. */
export function usePlanLamps(show: WholeShow, plan: PlanData | undefined, motion?: Motion): PlanLamp[] {
  const armed = useLive((live) => live.engine?.state.armed) ?? NO_ONE;
  const lamps = useMemo(() => {
    const profiles = new Map(show.profiles.map((one) => [one.id, one]));
    const items = new Map(plan?.items.map((one) => [one.id, one]));
    const found: PlanLamp[] = [];
    let firstCell = 0;
    for (const fixture of show.fixtures) {
      const item = items.get(fixture.id);
      const profile = profiles.get(fixture.profile);
      if (item) {
        const [pan, tilt] = aimsOf(fixture, profiles);
        found.push({
          item,
          number: fixture.number,
          points: facePoints(fixture, profile),
          firstCell,
          guarded: profile?.guarded ?? false,
          armed: armed.includes(fixture.id),
          // A laser that is safe points nowhere.
          beam: () =>
            pan && tilt && (!profile?.guarded || armed.includes(fixture.id))
              ? beamOf(degrees(pan), degrees(tilt))
              : null,
        });
      }
      firstCell += fixture.cells;
    }
    return found;
  }, [show.fixtures, show.profiles, plan?.items, armed]);
  useWatchedAims(show, plan);
  return useMemo(() => {
    if (!motion?.moves) return lamps;
    const trails = new Map(motion.heads.filter((one) => one.speed > 0).map((one) => [one.id, trailOf(one)]));
    return lamps.map((lamp) => ({ ...lamp, trail: trails.get(lamp.item.id) }));
  }, [lamps, motion]);
}

const trailOf = (head: Motion["heads"][number]): Point[] =>
  head.across.map((pan, n) => beamOf(pan, head.up[n] ?? 0));

function aimsOf(
  fixture: WholeShow["fixtures"][number],
  profiles: Map<string, WholeShow["profiles"][number]>,
): (Place | undefined)[] {
  const mode = profiles.get(fixture.profile)?.modes.find((one) => one.name === fixture.mode);
  const turns = mode?.blocks.some((block) => block.shared.some((one) => one.attribute === "Pan"));
  if (!turns) return [];
  const attributes = attributesOf(chosenRuns([fixture], [], profiles));
  return ["Pan", "Tilt"].map((name) => attributes.find((one) => one.name === name)?.places[0]);
}

/** What a place stands for now, in degrees; half a turn each way where its profile does not say. */
function degrees(place: Place): number {
  const byte = (position: number) =>
    levels.get(Math.floor(position / 512) + 1)?.values[position % 512] ?? 128;
  const fine = place.finePosition >= 0 ? byte(place.finePosition) : null;
  const level = levelOf(place.channel, byte(place.position), fine);
  const [low, high] = place.channel.physical ?? [-180, 180];
  return low + level * (high - low);
}

/** Asks for the levels of the universes in which heads are turned. */
function useWatchedAims(show: WholeShow, plan: PlanData | undefined): void {
  const universes = useMemo(() => {
    const placed = new Set(plan?.items.map((one) => one.id));
    const turning = new Set(
      show.profiles.filter((one) => one.kind === "head" || one.kind === "laser").map((one) => one.id),
    );
    const found = show.fixtures
      .filter((one) => placed.has(one.id) && turning.has(one.profile))
      .flatMap((one) => one.spans.map(([universe]) => universe));
    return [...new Set(found)].slice(0, 24).join();
  }, [show.fixtures, show.profiles, plan?.items]);
  useEffect(() => {
    const stops = universes ? universes.split(",").map((one) => watchLevels(Number(one))) : [];
    return () => {
      for (const stop of stops) stop();
    };
  }, [universes]);
}

/** The item under a point, the topmost first; null where there is none. */
export function itemAt(
  lamps: PlanLamp[],
  others: PlanData["items"],
  at: Point,
  reach: number,
): string | null {
  for (const item of [...others].reverse()) {
    const wide = item.kind === "label" ? reach * (2 + item.text.length) : reach * 2;
    if (Math.abs(at[1] - item.y) < reach * 1.5 && at[0] > item.x - reach * 1.5 && at[0] < item.x + wide)
      return item.id;
  }
  for (const { item } of [...lamps].reverse()) {
    const turn = (-item.turn * Math.PI) / 180;
    const [dx, dy] = [at[0] - item.x, at[1] - item.y];
    const x = dx * Math.cos(turn) - dy * Math.sin(turn);
    const y = dx * Math.sin(turn) + dy * Math.cos(turn);
    if (Math.abs(x) <= item.w / 2 + reach / 2 && Math.abs(y) <= item.h / 2 + reach / 2) return item.id;
  }
  return null;
}
