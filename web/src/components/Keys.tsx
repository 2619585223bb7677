import { useEffect } from "react";
import { useNavigate } from "react-router";
import { command, useLive } from "../stores/live";
import { STATIONS, useView } from "../stores/view";
import { redo, undo } from "./steps";
import { tap } from "./tap";

/** Keys that work everywhere, except while something is being typed. */
export function Keys() {
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest(
        "input:not([type=range]):not([type=checkbox]), textarea, select, [contenteditable]",
      );
      const stepping = event.key.toLowerCase() === "z" && !typing;
      if (stepping) {
        event.preventDefault();
        void (event.shiftKey ? redo() : undo());
        return;
      }
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      const station = STATIONS[Number(event.key) - 1];
      if (station) navigate(`/${station}`);
      else if (event.key === "?") useView.setState(({ help }) => ({ help: !help }));
      else if (event.key === "b" || event.key === "B")
        command({ do: "blackout", on: !useLive.getState().engine?.state.blackout });
      else if (event.key === "l" || event.key === "L") command({ do: "safe" });
      else if (event.key === "t" || event.key === "T") tap();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [navigate]);
  return null;
}
