import { answer, client, type LookView } from "../../api/client";
import { useEdit } from "../../api/show";
import { useView } from "../../stores/view";
import type { NewLine } from "./newLines";

/** Adds a line on top of a look, and chooses it. */
export function useAddLine(look: LookView) {
  const edit = useEdit();
  return async (body: NewLine): Promise<void> => {
    const params = { path: { look_id: look.id } };
    if (await edit(() => answer(client.POST("/api/looks/{look_id}/lines", { params, body }))))
      useView.setState({ line: body.id });
  };
}
