import { Button } from "@mui/material";
import { useCallback, useEffect } from "react";
import { answer, client } from "../../../api/client";
import { newId } from "../../../api/person";
import { useEdit } from "../../../api/show";
import { KeyCap } from "../../../components/atoms";
import { undo } from "../../../components/steps";
import { say } from "../../../stores/notices";

/** Everything that is held by hand becomes a look: recalled, the bytes are the same. */
function useKeep(): () => Promise<void> {
  const edit = useEdit();
  return useCallback(async () => {
    const body = { id: newId(), chosen: "" };
    if (await edit(() => answer(client.POST("/api/looks/kept", { body }))))
      say("Kept as a look: it stands last at Looks, off.", () => void undo());
  }, [edit]);
}

/** K keeps it from anywhere at Rig, whatever is chosen. */
export function useKeepKey(): void {
  const keep = useKeep();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).closest("input:not([type=range]), textarea, select");
      if (typing || event.ctrlKey || event.metaKey || event.altKey || event.key.toLowerCase() !== "k") return;
      event.preventDefault();
      void keep();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [keep]);
}

export function KeepAsLook() {
  const keep = useKeep();
  return (
    <Button
      variant="text"
      sx={{ px: 0.75 }}
      onClick={() => void keep()}
      title="Everything held by hand, to the byte"
    >
      Keep as look <KeyCap>K</KeyCap>
    </Button>
  );
}
