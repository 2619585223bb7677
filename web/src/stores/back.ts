import { create } from "zustand";
import { answer, client, type Schemas } from "../api/client";
import type { Picture } from "./pictures";

/** The moment that is looked back at; null: now. */
export const useBack = create<{ moment: Schemas["KeptMoment"] | null }>(() => ({ moment: null }));

/** What is looked back at, for a canvas that draws each animation frame. */
export const backPicture: { current: Picture | undefined } = { current: undefined };
export const backLevels: { current: Uint8Array | undefined } = { current: undefined };

export const now = (): void => {
  backPicture.current = undefined;
  backLevels.current = undefined;
  useBack.setState({ moment: null });
};

export function pictureOf(kept: Schemas["KeptPicture"] | null | undefined): Picture | undefined {
  if (!kept) return undefined;
  const rgb = Uint8Array.from(atob(kept.rgb), (char) => char.charCodeAt(0));
  return { columns: kept.columns, rows: kept.rows, step: 1, state: "sent", rgb };
}

let asked = 0;

/** Goes to a kept frame, or to the one so many seconds ago. Only the newest answer counts. */
export async function lookBack(
  to: { frame: number; after?: boolean } | { ago_s: number },
  matrix: string,
  universe: number,
): Promise<void> {
  const turn = ++asked;
  const query = { ago_s: 0, after: false, matrix, universe, ...to };
  const found = (await answer(
    client.GET("/api/back/moment", { params: { query } }),
  )) as Schemas["KeptMoment"];
  if (turn !== asked) return;
  backPicture.current = pictureOf(found.picture);
  backLevels.current = found.levels ? Uint8Array.from(found.levels) : undefined;
  useBack.setState({ moment: found });
}
