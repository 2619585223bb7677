export interface Rect {
  left: number;
  top: number;
  width: number;
  height: number;
}

const GAP = 4;

const meets = (a: Rect, b: Rect): boolean =>
  a.left < b.left + b.width &&
  b.left < a.left + a.width &&
  a.top < b.top + b.height &&
  b.top < a.top + a.height;

/** What a bubble must not lie over, by how bad that would be. */
export interface Around {
  rect: Rect;
  weight: number;
}

/** Where a bubble of a size stands beside its field: where it covers least of what is around it, beneath it first. */
export function bubblePlace(
  field: Rect,
  size: { width: number; height: number },
  view: { width: number; height: number },
  around: Around[],
): { left: number; top: number } {
  const below = field.top + field.height + GAP;
  const above = field.top - size.height - GAP;
  const right = field.left + field.width + GAP;
  const left = field.left - size.width - GAP;
  const level = field.top + (field.height - size.height) / 2;
  const ends = field.left + field.width - size.width;
  const wanted: [number, number][] = [
    [field.left, below],
    [ends, below],
    [field.left, above],
    [ends, above],
    [right, level],
    [right, field.top],
    [left, level],
  ];
  let best = { left: field.left, top: below };
  let least = Number.POSITIVE_INFINITY;
  for (const [x, y] of wanted) {
    const placed = {
      left: Math.min(Math.max(x, GAP), Math.max(view.width - size.width - GAP, GAP)),
      top: Math.min(Math.max(y, GAP), Math.max(view.height - size.height - GAP, GAP)),
    };
    const rect = { ...placed, ...size };
    const covers = around.reduce((sum, one) => sum + (meets(rect, one.rect) ? one.weight : 0), 0);
    const cost = covers + (meets(rect, field) ? 1000 : 0);
    if (cost < least) [best, least] = [placed, cost];
  }
  return best;
}
