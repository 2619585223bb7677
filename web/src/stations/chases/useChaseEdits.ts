import { answer, client, problemOf, type Schemas } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow, useEdit } from "../../api/show";
import type { Square } from "../../canvas/chasePainter";
import { useView } from "../../stores/view";
import type { Chase } from "./useFramePicture";

export type Tool = Schemas["Draw"]["tool"];
export type Rgb = [number, number, number];

/** Everything that can be done to a chase; each is one edit, undone by itself. */
export function useChaseEdits(chase: Chase) {
  const edit = useEdit();
  const params = { path: { chase_id: chase.id } };
  /** The sentence that says what is wrong, "" where nothing is. */
  const said = async (run: () => Promise<unknown>): Promise<string> => {
    const problem = await problemOf(run);
    await refreshShow();
    return problem;
  };
  return {
    draw: (frame: string, tool: Tool, squares: Square[], colour: Rgb | null) =>
      edit(() =>
        answer(
          client.POST("/api/chases/{chase_id}/draw", {
            params,
            body: { frame, tool, squares: squares.map(([x, y]) => [x, y]), colour },
          }),
        ),
      ),
    type: (frame: string, text: string) =>
      said(() => answer(client.POST("/api/chases/{chase_id}/typed", { params, body: { frame, text } }))),
    frames: (
      body:
        | Schemas["SetTimes"]
        | Schemas["SpreadFrames"]
        | Schemas["Paste"]
        | Schemas["InsertFrame"]
        | Schemas["OfFrames"],
    ) => said(() => answer(client.POST("/api/chases/{chase_id}/frames", { params, body }))),
    change: (body: Schemas["ChasePatch"]) =>
      said(() =>
        answer(client.PATCH("/api/chases/{chase_id}", { params, body: { ...body, rev: chase.rev } })),
      ),
    remove: async () => {
      if (await edit(() => answer(client.DELETE("/api/chases/{chase_id}", { params }))))
        useView.setState({ chase: null });
    },
    copy: async () => {
      const id = newId();
      if (await edit(() => answer(client.POST("/api/chases/{chase_id}/copy", { params, body: { id } }))))
        useView.setState({ chase: id });
    },
  };
}

export type ChaseEdits = ReturnType<typeof useChaseEdits>;
