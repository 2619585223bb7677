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
