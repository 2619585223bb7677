import { useEffect, useRef } from "react";
import type { WholeShow } from "../../api/client";
import { useLive } from "../../stores/live";
import { press } from "./useCueList";

/** Space goes, Backspace goes back, H holds and R lets go, all of the main list; a button keeps its own Space. */
export function useRunKeys(show: WholeShow | undefined): void {
  const main = useRef("");
  main.current = show?.cue_lists.find((one) => one.main)?.id ?? "";
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (!main.current || event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      if (target.closest("input, textarea, select, [contenteditable]")) return;
      const key = event.key.toLowerCase();
      if (key === " ") {
        if (target.closest("button, a, [role=slider]")) return;
        press(main.current, "go");
      } else if (key === "backspace") press(main.current, "back");
      else if (key === "h" && useLive.getState().engine?.state.lists.some((one) => one.of === main.current))
        press(main.current, "hold");
      else if (key === "r") press(main.current, "release");
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
