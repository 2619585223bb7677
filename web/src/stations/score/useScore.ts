import { useMemo } from "react";
import { answer, client, problemOf, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow, useEdit } from "../../api/show";
import type { Score } from "../../model/staff";
import { act } from "../../stores/hands";
import { type PlayingScore, useLive } from "../../stores/live";
import { useView } from "../../stores/view";

export type EntryFields = Omit<Schemas["EntriesPatch"], "entries">;
export type FillAsked = Required<Schemas["FillAsked"]>;
export type FillView = Schemas["FillView"];

/** What of a score the engine tells; undefined while it is away. */
export const usePlayed = (score: string | undefined): PlayingScore | undefined =>
  useLive((live) => live.engine?.state.scores.find((one) => one.of === score));

/** The score that stands at Run: the chosen one, else the first. */
export function useShownScore(show: WholeShow | undefined): Score | undefined {
  const chosen = useView((view) => view.score);
  const scores = show?.scores ?? [];
  return scores.find((one) => one.id === chosen) ?? scores[0];
}

/** Moves a handle of a score. */
export const pressScore = (score: string, name: string, value: boolean | null = null): void =>
  act(`score/${score}/${name}`, value);

/** Everything that can be done to a score; each is one edit, undone by itself. */
export function useScoreEdits(score: string) {
  const edit = useEdit();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same for as long as the score is
  return useMemo(() => editsOf(score, edit), [score]);
}

function editsOf(score: string, edit: ReturnType<typeof useEdit>) {
  const params = { path: { score_id: score } };
  const said = async (run: () => Promise<unknown>): Promise<string> => {
    const problem = await problemOf(run);
    await refreshShow();
    return problem;
  };
  return {
    change: (body: Schemas["ScorePatch"]) =>
      said(() => answer(client.PATCH("/api/scores/{score_id}", { params, body }))),
    remove: () => edit(() => answer(client.DELETE("/api/scores/{score_id}", { params }))),
    write: async (stave: string, text: string) => {
      const id = newId();
      const body = { id, stave, text };
      const problem = await said(() =>
        answer(client.POST("/api/scores/{score_id}/entries", { params, body })),
      );
      if (!problem) useView.setState({ entries: [id], stave });
      return problem;
    },
    set: (entries: string[], fields: EntryFields) =>
      said(() =>
        answer(client.PATCH("/api/scores/{score_id}/entries", { params, body: { ...fields, entries } })),
      ),
    drop: async (entries: string[]) => {
      const body = { entries };
      if (await edit(() => answer(client.POST("/api/scores/{score_id}/entries/delete", { params, body }))))
        useView.setState({ entries: [] });
    },
    shift: (entries: string[], beats: number, stave = "") =>
      edit(() =>
        answer(
          client.POST("/api/scores/{score_id}/entries/move", { params, body: { entries, beats, stave } }),
        ),
      ),
    copy: (entries: string[]) =>
      edit(() => answer(client.POST("/api/scores/{score_id}/entries/copy", { params, body: { entries } }))),
    repeat: (entries: string[], every: string) =>
      said(() =>
        answer(client.POST("/api/scores/{score_id}/entries/repeat", { params, body: { entries, every } })),
      ),
    accent: (stave: string, place: string | null) =>
      said(() =>
        answer(
          client.POST("/api/scores/{score_id}/accents", {
            params,
            body: { id: newId(), stave, place, look: "" },
          }),
        ),
      ),
    position: (stave: string, preset: string, place: string) =>
      said(() =>
        answer(
          client.POST("/api/scores/{score_id}/positions", {
            params,
            body: { id: newId(), stave, preset, place },
          }),
        ),
      ),
    locate: (place: string) =>
      problemOf(() => answer(client.POST("/api/scores/{score_id}/locate", { params, body: { place } }))),
    fill: (body: FillAsked): Promise<FillView> =>
      answer(client.POST("/api/scores/{score_id}/fill", { params, body })) as Promise<FillView>,
    keep: (body: FillAsked) =>
      said(() =>
        answer(client.POST("/api/scores/{score_id}/fill", { params, body: { ...body, keep: true } })),
      ),
  };
}

export type ScoreEdits = ReturnType<typeof useScoreEdits>;

/** Makes a score and shows it. */
export function useNewScore(): (name: string) => Promise<unknown> {
  const edit = useEdit();
  return async (name) => {
    const id = newId();
    const body = { id, name, bars: 32, groups: [] };
    if (await edit(() => answer(client.POST("/api/scores", { body })))) {
      useView.setState({ score: id, entries: [], stave: "" });
    }
  };
}
