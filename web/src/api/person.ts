/** Who sits at this browser: a key of its own and a name others see. Kept in the browser. */
const KEY = "heliograph.person";
const NAME = "heliograph.name";

function stored(name: string, make: () => string): string {
  const known = localStorage.getItem(name);
  if (known) return known;
  const made = make();
  localStorage.setItem(name, made);
  return made;
}

/** Works in insecure contexts too, where `crypto.randomUUID` is missing. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, "0")).join("");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

export const personKey = stored(KEY, newId);

export function personName(): string {
  return stored(NAME, () => `Technician ${personKey.slice(0, 2)}`);
}

export function namePerson(name: string): void {
  localStorage.setItem(NAME, name);
}
