import { type ComponentType, createElement, type ReactNode } from "react";
import { fetched } from "./components/fetched";
import { fetchPanels } from "./components/LazyMui";
import { Loading } from "./components/Loading";
import { fetchLater } from "./components/later";

const waiting = createElement(Loading, { error: null });
const stations: { fetch: () => Promise<void> }[] = [];

function station(get: () => Promise<ComponentType>, meanwhile: ReactNode = waiting) {
  const one = fetched(get, meanwhile);
  stations.push(one);
  return one;
}

export const Phone = fetched(async () => (await import("./phone/Phone")).Phone);
export const Page = fetched(async () => (await import("./page/Page")).Page);
export const WhatIs = station(async () => (await import("./components/WhatIs")).WhatIs, null);
export const Help = station(async () => (await import("./components/Help")).Help, null);
export const FirstSteps = station(async () => (await import("./components/FirstSteps")).FirstSteps, null);
export const FaultList = fetched(async () => (await import("./stations/check/FaultList")).FaultList);
export const Rig = station(async () => (await import("./stations/rig/Rig")).Rig);
export const Plan = station(async () => (await import("./stations/rig/plan/Plan")).Plan);
export const Profiles = station(async () => (await import("./stations/rig/profiles/Profiles")).Profiles);
export const Patch = station(async () => (await import("./stations/patch/Patch")).Patch);
export const Matrices = station(async () => (await import("./stations/matrices/Matrices")).Matrices);
export const Looks = station(async () => (await import("./stations/looks/Looks")).Looks);
export const Run = station(async () => (await import("./stations/run/Run")).Run);
export const Score = station(async () => (await import("./stations/score/Score")).Score);
export const Pages = station(async () => (await import("./stations/pages/Pages")).Pages);
export const Clock = station(async () => (await import("./stations/clock/Clock")).Clock);
export const Check = station(async () => (await import("./stations/check/Check")).Check);

/** Fetches every station, so that none has to be waited for, and none is missing while the server is away. */
export function fetchAll(): void {
  for (const one of stations) void one.fetch();
  fetchLater();
  fetchPanels();
}
