/**
 * What makes dark, safe or still, on a way of its own: a socket that carries nothing else, then HTTP, again and again
 * until the engine has answered. It waits behind nothing this page or another one does.
 */
import { OLD_MS } from "./age";
import { send, whileShown } from "./connection";
import { type EngineState, takeState, useLive } from "./live";
import { notify } from "./notices";

const AGAIN_MS = 400;
const LATE_MS = 1200;
const CONNECT_MS = 500;

interface Asked {
  handle: string;
  body: string;
  since: number;
  told: boolean;
}

const waiting = new Map<string, Asked>();
let socket: WebSocket | null = null;
let left = false;
let timer = 0;
let number = 0;

/** Whether the last that was heard of the engine is too old to act upon. */
export const isStale = (): boolean => {
  const { engine, engineAt } = useLive.getState();
  return !engine || performance.now() - engineAt > OLD_MS;
};

/** A switch to what was meant, whatever it is by then: asked for until it is answered, or meant otherwise. */
export function urge(handle: string, value: boolean | null): void {
  for (const [id, one] of waiting) if (one.handle === handle) waiting.delete(id);
  const id = `${performance.timeOrigin.toString(36)}-${++number}`;
  const body = JSON.stringify({ id, command: { do: "move", moves: [{ handle, value }] } });
  waiting.set(id, { handle, body, since: performance.now(), told: false });
  tell();
}

/** Every laser safe. Told on the other way too, after what this page told there: to arm, it may be. */
export function makeSafe(): void {
  urge("safe", null);
  send({ type: "command", command: { do: "move", moves: [{ handle: "safe", value: null }] } });
}

/** Blackout or freeze as a key or a button means it: over from what is seen; on, where that is old. */
export function press(handle: "blackout" | "freeze"): void {
  const seen = useLive.getState().engine?.state[handle] ?? false;
  urge(handle, isStale() ? true : !seen);
}

function tell(): void {
  clearTimeout(timer);
  for (const [id, one] of waiting) {
    const first = performance.now() - one.since < AGAIN_MS / 2;
    if (socket?.readyState === WebSocket.OPEN) socket.send(one.body);
    if (!first || socket?.readyState !== WebSocket.OPEN) void byHttp(id, one);
    if (!one.told && performance.now() - one.since > LATE_MS) {
      one.told = true;
      notify({
        what: "Nobody has confirmed that yet.",
        where: "",
        repair: "It is asked for again until it is.",
        status: 0,
      });
    }
  }
  if (waiting.size) timer = window.setTimeout(tell, AGAIN_MS);
}

async function byHttp(id: string, one: Asked): Promise<void> {
  try {
    const got = await fetch("/api/urgent", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: one.body,
    });
    if (got.ok) take(await got.json());
    else if (got.status < 500) waiting.delete(id);
  } catch {
    // The server is away: it is asked again.
  }
}

type Answer = { id: string } & (
  | { type: "state"; state: EngineState }
  | { type: "error"; again: boolean; what: string; where: string; repair: string }
);

function take(message: Answer): void {
  if (message.type === "error" && message.again) return; // the engine is being begun anew
  if (!waiting.delete(message.id)) return;
  if (message.type === "state") takeState(message.state);
  else notify({ ...message, status: 422 });
}

function connect(): void {
  if (left) return;
  const made = new WebSocket(
    `${location.protocol === "https:" ? "wss" : "ws"}://${location.host}/api/urgent`,
  );
  socket = made;
  made.onopen = tell;
  made.onmessage = (event) => take(JSON.parse(event.data));
  made.onclose = () => {
    if (socket !== made) return;
    socket = null;
    setTimeout(connect, CONNECT_MS);
  };
}

/** Called once. */
export function keepUrgent(): void {
  whileShown(
    () => {
      left = false;
      connect();
    },
    () => {
      left = true;
      socket?.close();
      socket = null;
    },
  );
}
