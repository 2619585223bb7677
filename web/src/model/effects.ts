import type { EffectView } from "../api/client";

/** Effects whose name, words or description answer to what was typed; the best first. */
export function effectsFor(effects: EffectView[], text: string): EffectView[] {
  const wanted = text.trim().toLowerCase();
  if (!wanted) return effects;
  const rank = (effect: EffectView): number => {
    if (effect.name.toLowerCase().startsWith(wanted)) return 0;
    if (effect.words.some((word) => word.startsWith(wanted))) return 1;
    return `${effect.says} ${effect.words.join(" ")}`.toLowerCase().includes(wanted) ? 2 : 9;
  };
  return effects.filter((effect) => rank(effect) < 9).sort((a, b) => rank(a) - rank(b));
}

/** Why an effect does not read well on a matrix of this size; "" where it does. It is never forbidden. */
export function unsuited(effect: EffectView, width: number, height: number): string {
  const [columns, rows] = effect.smallest;
  if (width >= columns && height >= rows) return "";
  return `reads well from ${columns} x ${rows} on; here are ${width} x ${height}`;
}
