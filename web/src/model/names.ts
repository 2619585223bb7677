/** A name that is not taken: "Name", "Name 2", "Name 3" ... */
export function freeName(wanted: string, taken: string[]): string {
  const known = new Set(taken.map((one) => one.toLowerCase()));
  if (!known.has(wanted.toLowerCase())) return wanted;
  let number = 2;
  while (known.has(`${wanted} ${number}`.toLowerCase())) number++;
  return `${wanted} ${number}`;
}

/** `1 fixture`, `27 fixtures`. */
export const fixturesOf = (one: { fixtures: number }): string =>
  one.fixtures === 1 ? "1 fixture" : `${one.fixtures} fixtures`;
