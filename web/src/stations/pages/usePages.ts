import { useMemo } from "react";
import { answer, client, problemOf, type Schemas } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow, useEdit } from "../../api/show";
import type { Item } from "../../page/shapes";
import { useView } from "../../stores/view";

/** Everything that can be done to a page; each is one edit, undone by itself. */
export function usePageEdits(page: string) {
  const edit = useEdit();
  return useMemo(() => {
    const params = { path: { page_id: page } };
    const said = async (run: () => Promise<unknown>): Promise<string> => {
      const problem = await problemOf(run);
      await refreshShow();
      return problem;
    };
    return {
      change: (body: Schemas["PagePatch"]) =>
        said(() => answer(client.PATCH("/api/pages/{page_id}", { params, body }))),
      remove: () => edit(() => answer(client.DELETE("/api/pages/{page_id}", { params }))),
      copy: () =>
        edit(() => answer(client.POST("/api/pages/{page_id}/copy", { params, body: { id: newId() } }))),
      add: async (kind: Item["kind"], handles: string[], fields: Partial<Schemas["ItemPatch"]> = {}) => {
        const id = newId();
        const body = { ...fields, id, kind, handles };
        const problem = await said(() => answer(client.POST("/api/pages/{page_id}/items", { params, body })));
        if (!problem) useView.setState({ item: id });
        return problem;
      },
      set: (item: string, body: Schemas["ItemPatch"]) =>
        said(() =>
          answer(
            client.PATCH("/api/pages/{page_id}/items/{item_id}", {
              params: { path: { page_id: page, item_id: item } },
              body,
            }),
          ),
        ),
      drop: (items: string[]) =>
        edit(() => answer(client.POST("/api/pages/{page_id}/items/delete", { params, body: { items } }))),
    };
  }, [page, edit]);
}

export type PageEdits = ReturnType<typeof usePageEdits>;

export function useNewPage(): (name: string) => Promise<unknown> {
  const edit = useEdit();
  return async (name) => {
    const id = newId();
    if (await edit(() => answer(client.POST("/api/pages", { body: { id, name } }))))
      useView.setState({ page: id, item: "" });
  };
}
