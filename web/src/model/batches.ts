import type { FixtureView, Schemas, WholeShow } from "../api/client";

export type BatchKind = "number" | "name" | "mode" | "copy";
export type BatchChange = Schemas["Batch"]["change"];

/** What stands in the line before anything is typed: what they have now. */
export function suggestion(kind: BatchKind, show: WholeShow, chosen: FixtureView[]): string {
  const first = chosen[0];
  const highest = show.fixtures.reduce((most, one) => Math.max(most, one.number), 0);
  if (kind === "number") return String(first?.number ?? 1);
  if (kind === "name") return `${(first?.name ?? "Lamp").replace(/\s*\d+$/, "")} {n}`;
  if (kind === "copy") return `1 x, from ${highest + 1}, {name}`;
  const profile = show.profiles.find((one) => one.id === first?.profile);
  return `${profile?.name ?? ""}, ${first?.mode ?? ""}`;
}

/** What the typed line asks for, or what is wrong with it. */
export function changeOf(
  kind: BatchKind,
  text: string,
  show: WholeShow,
  count: number,
): BatchChange | string {
  if (kind === "number") {
    const match = /^\s*(\d+)(?:\s+every\s+(\d+)(?:st|nd|rd|th)?)?\s*$/i.exec(text);
    if (!match) return "Type the first number, such as 401, or 401 every 2nd.";
    return { do: "number", first: Number(match[1]), step: Number(match[2] ?? 1) };
  }
  if (kind === "name") return text.trim() ? { do: "name", pattern: text.trim() } : "Type a name.";
  if (kind === "copy") {
    const [times = "", ...rest] = text.split(",").map((part) => part.trim());
    const many = /^(\d+)\s*x?$/.exec(times);
    if (!many) return "Begin with how many times, such as 2 x.";
    const from = rest.find((part) => part.startsWith("from "));
    const pattern = rest.find((part) => part !== from) ?? "";
    const first = from ? Number(from.slice(5)) : null;
    if (first !== null && !(first >= 1)) return "'from' needs a number, such as from 401.";
    if (Number(many[1]) * count > 2000) return "2000 copies at once are the most.";
    return { do: "copy", times: Math.max(1, Number(many[1])), first, pattern, new_ids: [] };
  }
  const [name = "", ...mode] = text.split(",").map((part) => part.trim());
  const profile = show.profiles.find((one) => one.name.toLowerCase() === name.toLowerCase());
  if (!profile) return `There is no profile '${name}'.`;
  const wanted = mode.join(", ") || profile.modes[0]?.name || "";
  const found = profile.modes.find((one) => one.name.toLowerCase() === wanted.toLowerCase());
  if (!found)
    return `${profile.name} has no mode '${wanted}'. It has: ${profile.modes
      .map((one) => one.name)
      .slice(0, 8)
      .join("; ")}.`;
  return { do: "mode", profile: profile.id, mode: found.name };
}
