import type { FixtureView, ProfileView, WholeShow } from "../api/client";

/** Lists whose items are what they were as long as their revision is. */
const BY_REVISION = ["profiles", "plans", "matrices", "looks", "outputs", "ramps"] as const;

interface Kept {
  id: string;
  rev: number;
}

/**
 * The new show with everything of the old one that is still so, object by object: what did not change is the same
 * object and is not drawn again. A comparison in depth of 2,000 fixtures took a tenth of a second.
 */
export function shared(before: WholeShow | undefined, now: WholeShow): WholeShow {
  if (!before || before.show.id !== now.show.id) return now;
  const result = { ...now };
  for (const name of BY_REVISION)
    (result[name] as Kept[]) = keep<Kept>(before[name] as Kept[], now[name] as Kept[]);
  // What a fixture covers follows from its profile too, and whom it meets from the others.
  if (sameProfiles(before.profiles, result.profiles))
    result.fixtures = keep(before.fixtures, now.fixtures, sameMeetings);
  return result;
}

const sameProfiles = (before: ProfileView[], now: ProfileView[]): boolean =>
  before.length === now.length &&
  before.every((one, index) => one.id === now[index]?.id && one.rev === now[index]?.rev);

const sameMeetings = (a: FixtureView, b: FixtureView): boolean =>
  a.conflict.length === b.conflict.length && a.conflict.every((one, index) => one === b.conflict[index]);

function keep<T extends Kept>(before: T[], now: T[], alike: (a: T, b: T) => boolean = () => true): T[] {
  const known = new Map(before.map((one) => [one.id, one]));
  const kept = now.map((one) => {
    const old = known.get(one.id);
    return old && old.rev === one.rev && alike(old, one) ? old : one;
  });
  return kept.length === before.length && kept.every((one, index) => one === before[index]) ? before : kept;
}
