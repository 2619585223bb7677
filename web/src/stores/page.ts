import { create } from "zustand";
import { send } from "./connection";
import { pages } from "./live";

/** What an item of the open page is, as everybody sees it; see `api/page_state`. */
export interface ItemNow {
  on: boolean;
  level: number;
  said: string;
  left: string;
  gone?: boolean;
  held?: "" | "mine" | "other";
  finger?: string;
  sides?: number[];
  next?: string;
  before?: string;
  list?: string;
}

interface PageNow {
  items: Record<string, ItemNow>;
  beat: number;
  bpm: number;
  /** Local time of the last word. */
  at: number;
  gone: boolean;
  /** Names of the others who have anything open. */
  here: string[];
  /** On so many others this page is all there is. */
  open: number;
  /** From here to the server and back; undefined before it is known. */
  ms: number | undefined;
}

export const usePageNow = create<PageNow>(() => ({
  items: {},
  beat: 0,
  bpm: 120,
  at: 0,
  gone: false,
  here: [],
  open: 0,
  ms: undefined,
}));

const KEEP_MS = 300;
const ECHO_MS = 2000;

let open = "";
/** It is shown beside other things. */
let beside = false;
/** The echo that is waited for, and when it was asked. */
const asked = { number: 0, at: 0 };
/** Fingers that are down, by the browser's number of them. */
const down = new Set<number>();

const say = (what: string, rest: object = {}): boolean => send({ type: "page", what, ...rest });

/** Asks for what the items of a page are; "" for none. */
export function openPage(page: string, besideOthers = false): void {
  // What is held goes with what it was held on: nobody could lift it any more.
  if (page !== open) for (const finger of [...down]) lift(finger);
  open = page;
  beside = besideOthers;
  say("open", { page, beside });
}

/** After the connection came back. */
function tellPage(): void {
  if (open) say("open", { page: open, beside });
}

function takePage(message: {
  page: string;
  gone?: boolean;
  items?: Record<string, ItemNow>;
  beat?: number;
  bpm?: number;
  here?: string[];
  open?: number;
  echo?: number;
}): void {
  if (message.echo !== undefined && message.echo === asked.number)
    usePageNow.setState({ ms: performance.now() - asked.at });
  if (message.page !== open) return;
  if (message.gone) usePageNow.setState({ gone: true, at: performance.now() });
  else
    usePageNow.setState({
      items: kept(usePageNow.getState().items, message.items ?? {}),
      beat: message.beat ?? 0,
      bpm: message.bpm ?? 120,
      at: performance.now(),
      gone: false,
      open: message.open ?? 0,
      here: same(usePageNow.getState().here, message.here ?? []),
    });
}

const same = (was: string[], now: string[]): string[] => (was.join() === now.join() ? was : now);

/** What did not change stays the same object, so that only what did is drawn anew. */
function kept(before: Record<string, ItemNow>, now: Record<string, ItemNow>): Record<string, ItemNow> {
  for (const [key, one] of Object.entries(now)) {
    const was = before[key];
    if (was && JSON.stringify(was) === JSON.stringify(one)) now[key] = was;
  }
  return now;
}

/** How often the beat is looked at: a page that draws with every frame of the screen gets touches later. */
export const BEAT_MS = 40;

/** The beat since the engine began, gone on from what was told last. */
export function beatNow(): number {
  const { beat, at, bpm } = usePageNow.getState();
  return Math.max(Math.floor(beat + ((performance.now() - at) / 60_000) * bpm), 0);
}

/** A finger comes down on an item. `part` of a list: go, back or release. */
export function touch(item: string, finger: number, part = ""): void {
  if (say("touch", { item, finger, part })) down.add(finger);
}

export function lift(finger: number): void {
  if (down.delete(finger)) say("lift", { finger: String(finger) });
}

/** Lets go what any hand holds. */
export const letGoOf = (finger: string): boolean => say("lift", { finger, others: true });

const faded = new Map<string, number>();
let waits = false;

/** Moves a fader or crossfader, at most once a frame of the screen. */
export function fade(item: string, share: number): void {
  faded.set(item, Math.min(Math.max(share, 0), 1));
  if (waits) return;
  waits = true;
  requestAnimationFrame(() => {
    waits = false;
    for (const [key, value] of faded) say("fade", { item: key, share: value });
    faded.clear();
  });
}

// A finger that is down is kept; a tablet that sleeps keeps nothing, and the engine lifts it.
setInterval(() => {
  if (down.size && !document.hidden) say("keep", { fingers: [...down].map(String) });
}, KEEP_MS);

setInterval(() => {
  if (!open || document.hidden) return;
  asked.number += 1;
  asked.at = performance.now();
  say("echo", { number: asked.number });
}, ECHO_MS);

pages.take = takePage;
pages.tell = tellPage;
