import { type ComponentType, lazy } from "react";

import { fetchPanels } from "./components/LazyMui";

const RETRY_MS = 1000;

type Get = () => Promise<ComponentType>;

/** Screens that are fetched when they are opened first, and all of them once the first one stands. */
const getters: Get[] = [];

function page(get: Get) {
  getters.push(get);
  return lazy(async () => {
    // A server that is being started again is back within seconds: the page waits for it instead of failing.
    for (;;)
      try {
        return { default: await get() };
      } catch {
        await new Promise((done) => setTimeout(done, RETRY_MS));
      }
  });
}

export const Phone = page(async () => (await import("./phone/Phone")).Phone);
export const FaultList = page(async () => (await import("./stations/check/FaultList")).FaultList);
export const Rig = page(async () => (await import("./stations/rig/Rig")).Rig);
export const Plan = page(async () => (await import("./stations/rig/plan/Plan")).Plan);
export const Profiles = page(async () => (await import("./stations/rig/profiles/Profiles")).Profiles);
export const Patch = page(async () => (await import("./stations/patch/Patch")).Patch);
export const Matrices = page(async () => (await import("./stations/matrices/Matrices")).Matrices);
export const Looks = page(async () => (await import("./stations/looks/Looks")).Looks);
export const Run = page(async () => (await import("./stations/run/Run")).Run);
export const Check = page(async () => (await import("./stations/check/Check")).Check);

/** Fetches every screen, so that none has to be waited for, and none is missing while the server is away. */
export function fetchAll(): void {
  for (const get of getters) get().catch(() => {});
  void fetchPanels();
}
