import { useQueries } from "@tanstack/react-query";
import type { WholeShow } from "../../api/client";
import { inkNow } from "../../theme/tokens";

const KEPT_MS = 600_000;

/**
 * What looks are like as strokes over groups: a picture of eight beats, by `strokeKey`. Looked at anew where a look
 * changed.
 */
export function useStrokes(show: WholeShow, played: [look: string, group: string][]): Map<string, string> {
  const known = new Map(show.looks.map((one) => [one.id, one]));
  const asked = [...new Set(played.filter(([look]) => known.has(look)).map((one) => strokeKey(...one)))];
  const found = useQueries({
    queries: asked.map((key) => ({
      queryKey: ["stroke", key, known.get(key.slice(0, 36))?.rev],
      queryFn: () => fetchStroke(key),
      gcTime: KEPT_MS,
    })),
  });
  return new Map(asked.flatMap((id, n) => (found[n]?.data ? [[id, found[n].data] as const] : [])));
}

export const strokeKey = (look: string, group: string): string => `${look}?group=${group}`;

/** An address of the picture; "" of a look that paints nothing there. */
async function fetchStroke(key: string): Promise<string> {
  const answered = await fetch(`/api/scores/strokes/${key}`);
  if (!answered.ok) throw new Error(answered.statusText);
  if (answered.status !== 200) return "";
  const width = Number(answered.headers.get("x-columns"));
  const height = Number(answered.headers.get("x-rows"));
  const rgb = new Uint8Array(await answered.arrayBuffer());
  const canvas = document.createElement("canvas");
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext("2d");
  if (!context) return "";
  context.fillStyle = inkNow("lamp");
  const image = context.createImageData(width, height);
  for (let at = 0; at < width * height; at++) {
    for (let part = 0; part < 3; part++) image.data[at * 4 + part] = rgb[at * 3 + part] ?? 0;
    image.data[at * 4 + 3] = 255;
  }
  context.putImageData(image, 0, 0);
  return canvas.toDataURL();
}
