/** Where each drive of the look on the screen stands, as the preview process tells it with every picture. Layout:
 * src/heliograph/preview/driven.py. */
export interface DrivenNow {
  page: number;
  /** 0 to 1 along the page. */
  place: number;
  value: number;
  /** Levels 0 to 1 of some cells along their order; empty where all are alike. */
  cells: number[];
}

const SIZE = 56;

/** By line, each drive in the order of their names, then each ribbon in the order of their colours. */
const driven = new Map<string, (DrivenNow | undefined)[]>();

export function takeDriven(
  view: DataView,
  from: number,
  count: number,
  uuidAt: (at: number) => string,
): void {
  driven.clear();
  for (let n = 0, at = from; n < count && at + SIZE <= view.byteLength; n++, at += SIZE) {
    const line = uuidAt(at);
    const index = view.getUint16(at + 16, true);
    const cells = view.getUint16(at + 18, true);
    const all = driven.get(line) ?? [];
    all[index] = {
      page: view.getInt32(at + 20, true),
      place: view.getFloat32(at + 24, true),
      value: view.getFloat32(at + 28, true),
      cells: Array.from({ length: cells }, (_, cell) => view.getUint8(at + 32 + cell) / 255),
    };
    driven.set(line, all);
  }
}

/** Where along its ribbon a colour of a line's ramp stands, 0 to 1. */
export function ribbonNow(
  line: { id: string; drives: object; ribbons: object },
  stop: string,
): number | undefined {
  const index = Object.keys(line.drives).length + Object.keys(line.ribbons).sort().indexOf(stop);
  return driven.get(line.id)?.[index]?.place;
}

/** Where a drive of a line stands; undefined where that is not known, or nothing arrives for it. */
export function drivenNow(line: { id: string; drives: object }, name: string): DrivenNow | undefined {
  return driven.get(line.id)?.[Object.keys(line.drives).sort().indexOf(name)];
}
