import { newId } from "../api/person";
import { send } from "./connection";

/** Lasers stay armed for as long as the page that armed them says every two seconds that it is still there. */
const KEY = "heliograph.lease";
const RENEW_MS = 2000;

let renewedAt = 0;

/** The token of this tab; it survives a reload of the page, and no other tab has it. */
export function leaseToken(): string {
  const known = sessionStorage.getItem(KEY);
  if (known) return known;
  const made = newId();
  sessionStorage.setItem(KEY, made);
  return made;
}

/** Called with every status: answers to messages are not slowed down in a tab that lies behind others, timers are. */
export function renewLease(armed: boolean): void {
  if (!armed || !sessionStorage.getItem(KEY)) return;
  const now = performance.now();
  if (now - renewedAt < RENEW_MS) return;
  renewedAt = now;
  send({ type: "command", command: { do: "renew", lease: leaseToken() } });
}
