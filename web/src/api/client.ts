import createClient from "openapi-fetch";
import { personKey, personName } from "./person";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type WholeShow = Schemas["WholeShow"];
export type FixtureView = Schemas["FixtureView"];
export type ProfileView = Schemas["ProfileView"];
export type MatrixView = Schemas["MatrixView"];
export type LookView = Schemas["LookView"];
export type OutputView = Schemas["OutputView"];
export type ClipView = Schemas["ClipView"];
export type RampView = Schemas["RampView"];
export type PlanData = Schemas["PlanView"];
export type GroupView = Schemas["GroupView"];
export type EffectView = Schemas["EffectView"];

/** What a refused request answers, and what a dead connection becomes. */
export interface Fault {
  what: string;
  where: string;
  repair: string;
  status: number;
}

export const client = createClient<paths>({ baseUrl: "" });

client.use({
  onRequest({ request }) {
    request.headers.set("x-person", personKey);
    request.headers.set("x-person-name", encodeURIComponent(personName()));
    return request;
  },
});

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer; throws a Fault otherwise. */
export async function answer<T>(request: Promise<Answer<T>>): Promise<T> {
  let result: Answer<T>;
  try {
    result = await request;
  } catch {
    throw offline();
  }
  if (result.response.ok) return result.data as T;
  const told = (result.error ?? {}) as Partial<Fault>;
  throw {
    what: told.what ?? `The server answered ${result.response.status}.`,
    where: told.where ?? "",
    repair: told.repair ?? "",
    status: result.response.status,
  } satisfies Fault;
}

export function offline(): Fault {
  return {
    what: "The web server does not answer.",
    where: "",
    repair: "It is restarted by itself; the lights go on meanwhile.",
    status: 0,
  };
}

/** Runs a request; "" once it is done, or the sentence that says what was wrong and what would be right. */
export async function problemOf(run: () => Promise<unknown>): Promise<string> {
  try {
    await run();
    return "";
  } catch (fault) {
    if (!isFault(fault)) throw fault;
    return [fault.what, fault.repair].filter(Boolean).join(" ");
  }
}

export function isFault(value: unknown): value is Fault {
  return typeof value === "object" && value !== null && "what" in value;
}
