import { useMemo } from "react";
import { answer, client, problemOf, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow, useEdit } from "../../api/show";
import { act } from "../../stores/hands";
import { type EngineState, useLive } from "../../stores/live";
import { useView } from "../../stores/view";

export type CueList = WholeShow["cue_lists"][number];
export type Cue = CueList["cues"][number];
export type Playing = EngineState["lists"][number];
export type CueFields = Omit<Schemas["CuesPatch"], "cues">;

/** What of a list the engine plays; undefined where it does not run. */
export const usePlaying = (list: string | undefined): Playing | undefined =>
  useLive((live) => live.engine?.state.lists.find((one) => one.of === list));

/** The list that stands at Run: the chosen one, else the main one. */
export function useShownList(show: WholeShow | undefined): CueList | undefined {
  const chosen = useView((view) => view.list);
  const lists = show?.cue_lists ?? [];
  return lists.find((one) => one.id === chosen) ?? lists.find((one) => one.main);
}

/** Moves a handle of a list. */
export const press = (list: string, name: string, value: boolean | number | null = null): void =>
  act(`list/${list}/${name}`, value);

/** Everything that can be done to a list and its cues; each is one edit, undone by itself. */
export function useCueEdits(list: string) {
  const edit = useEdit();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same for as long as the list is
  return useMemo(() => editsOf(list, edit), [list]);
}

function editsOf(list: string, edit: ReturnType<typeof useEdit>) {
  const params = { path: { list_id: list } };
  const said = async (run: () => Promise<unknown>): Promise<string> => {
    const problem = await problemOf(run);
    await refreshShow();
    return problem;
  };
  return {
    change: (body: Schemas["CueListPatch"]) =>
      said(() => answer(client.PATCH("/api/lists/{list_id}", { params, body }))),
    remove: () => edit(() => answer(client.DELETE("/api/lists/{list_id}", { params }))),
    /** Fields of cues as they are typed. */
    set: (cues: string[], fields: CueFields) =>
      said(() => answer(client.PATCH("/api/lists/{list_id}/cues", { params, body: { ...fields, cues } }))),
    add: async (take: boolean, after: string) => {
      const id = newId();
      const body = { id, take, after };
      const problem = await said(() => answer(client.POST("/api/lists/{list_id}/cues", { params, body })));
      if (!problem) useView.setState({ cues: [id] });
      return problem;
    },
    drop: (cues: string[]) =>
      edit(() => answer(client.POST("/api/lists/{list_id}/cues/delete", { params, body: { cues } }))),
    copy: async (cues: string[]) => {
      const ids = cues.map(() => newId());
      if (
        await edit(() =>
          answer(client.POST("/api/lists/{list_id}/cues/copy", { params, body: { cues, ids } })),
        )
      )
        useView.setState({ cues: ids });
    },
    place: (cues: string[], after: string) =>
      edit(() => answer(client.POST("/api/lists/{list_id}/cues/move", { params, body: { cues, after } }))),
    renumber: (cues: string[], first: number, step: number) =>
      said(() =>
        answer(client.POST("/api/lists/{list_id}/cues/renumber", { params, body: { cues, first, step } })),
      ),
    table: (table: string) =>
      said(() => answer(client.PUT("/api/lists/{list_id}/cues.csv", { params, body: { table } }))),
  };
}

export type CueEdits = ReturnType<typeof useCueEdits>;

/** Makes a list and shows it. */
export function useNewList(): (name: string) => Promise<unknown> {
  const edit = useEdit();
  return async (name) => {
    const id = newId();
    if (await edit(() => answer(client.POST("/api/lists", { body: { id, name } }))))
      useView.setState({ list: id, cues: [] });
  };
}
