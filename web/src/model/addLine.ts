import type { ProfileView } from "../api/client";
import { fits } from "./profiles";

export interface Suggestions {
  /** What they are: "profiles" or "modes of RGB lamp"; "" where there is nothing to suggest. */
  of: string;
  /** Words on the chip, and the line it makes. */
  items: { label: string; text: string }[];
}

const MOST = 24;
/** While nothing is typed, one line of them: the library is long, and typing finds the rest. */
const MOST_OF_ALL = 7;
const FIRST = /^\s*(?:(\d+)\s*[x×*]?\s+)?(.*?)\s*$/;

/** What may stand next in the typed line: a profile, or a mode of the one that stands there already. */
export function suggestionsFor(text: string, profiles: ProfileView[]): Suggestions {
  const [first = "", ...rest] = text.split(",");
  const [, count = "1", wanted = ""] = FIRST.exec(first) ?? [];
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const whole = profiles.filter((one) => one.name.toLowerCase() === wanted.toLowerCase());
  const [profile] = whole;
  if (whole.length === 1 && profile) {
    if (profile.modes.length < 2 || rest.some((part) => part.trim().toLowerCase().startsWith("mode")))
      return { of: "", items: [] };
    const tail = rest.length ? `,${rest.join(",")}` : "";
    const items = profile.modes.slice(0, MOST).map((mode) => ({
      label: mode.name,
      text: `${first.trim()}, mode ${mode.name}${tail}`,
    }));
    return { of: `modes of ${profile.name}`, items };
  }
  if (rest.length) return { of: "", items: [] };
  const found = profiles.filter((one) => fits(one, wanted));
  const most = words.length ? MOST : MOST_OF_ALL;
  const items = found.slice(0, most).map((one) => ({ label: one.name, text: `${count} x ${one.name}` }));
  return { of: items.length ? "profiles" : "", items };
}
