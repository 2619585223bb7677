import { fetched } from "./fetched";
import type { DetailsProps } from "./LaserDetails";

/** What is wrong with a field. */
export const FaultBubble = fetched(async () => (await import("./FaultBubble")).FaultBubble);

/** What can be armed, and why not. */
export const LaserDetails = fetched<DetailsProps>(async () => (await import("./LaserDetails")).LaserDetails);

/** Fetched with the stations, after the first screen, so that none is missing while the server is away. */
export function fetchLater(): void {
  void FaultBubble.fetch();
  void LaserDetails.fetch();
}
