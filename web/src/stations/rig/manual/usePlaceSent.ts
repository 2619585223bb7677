import type { Place } from "../../../model/manual";
import { useSent } from "../../../stores/live";

/** What is sent at a place: its byte, and its fine byte (null where it has none). */
export function usePlaceSent(place: Place | undefined): [number, number | null] {
  const position = place?.position ?? 0;
  const fine = place && place.finePosition >= 0 ? place.finePosition : -1;
  const coarse = useSent(Math.floor(position / 512) + 1, (position % 512) + 1);
  const low = useSent(Math.floor(Math.max(fine, 0) / 512) + 1, (Math.max(fine, 0) % 512) + 1);
  return [coarse, fine >= 0 ? low : null];
}
