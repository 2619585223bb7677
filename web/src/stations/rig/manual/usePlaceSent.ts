import { useRef, useSyncExternalStore } from "react";
import { type Attribute, levelOf, type Place } from "../../../model/manual";
import { everyTenth, useSent } from "../../../stores/live";
import { levels } from "../../../stores/pictures";

/** What is sent at a place: its byte, and its fine byte (null where it has none). */
export function usePlaceSent(place: Place | undefined): [number, number | null] {
  const position = place?.position ?? 0;
  const fine = place && place.finePosition >= 0 ? place.finePosition : -1;
  const coarse = useSent(Math.floor(position / 512) + 1, (position % 512) + 1);
  const low = useSent(Math.floor(Math.max(fine, 0) / 512) + 1, (Math.max(fine, 0) % 512) + 1);
  return [coarse, fine >= 0 ? low : null];
}

const byteAt = (position: number): number =>
  levels.get(Math.floor(position / 512) + 1)?.values[position % 512] ?? 0;

const levelSent = (place: Place): number =>
  levelOf(place.channel, byteAt(place.position), place.finePosition >= 0 ? byteAt(place.finePosition) : null);

/** The levels that are sent at all places of each attribute, a few times a second; the same lists while none changed. */
export function useLevelsSent(attributes: (Attribute | undefined)[]): number[][] {
  const known = useRef<{ text: string; found: number[][] }>({ text: "", found: [] });
  return useSyncExternalStore(everyTenth, () => {
    const found = attributes.map((one) => (one?.places ?? []).map(levelSent));
    const text = JSON.stringify(found);
    if (text !== known.current.text) known.current = { text, found };
    return known.current.found;
  });
}

/** Less than half a step of 8 bits apart is alike. */
const ALIKE = 0.5 / 255;

export const areMixed = (values: number[]): boolean =>
  values.some((one) => Math.abs(one - (values[0] ?? 0)) > ALIKE);
