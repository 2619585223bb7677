import { answer, client, isFault } from "../api/client";
import { refreshShow } from "../api/show";
import { notify, say } from "../stores/notices";

async function step(kind: "undo" | "redo"): Promise<void> {
  try {
    const done = await answer(kind === "undo" ? client.POST("/api/undo") : client.POST("/api/redo"));
    say(kind === "undo" ? `Taken back: ${done.label}` : `Done again: ${done.label}`);
  } catch (fault) {
    if (!isFault(fault)) throw fault;
    notify(fault);
  }
  await refreshShow();
}

export const undo = () => step("undo");
export const redo = () => step("redo");
