import { useEffect } from "react";
import { useLocation } from "wouter";
import { act } from "../stores/hands";
import { makeSafe, press } from "../stores/urgent";
import { STATIONS } from "../stores/view";
import { redo, undo } from "./steps";

/** A digit that comes so soon after typing was meant for the field. */
const JUST_TYPED_MS = 1200;

/** Keys that work everywhere, except while something is being typed. */
export function Keys() {
  const [, navigate] = useLocation();
  useEffect(() => {
    let typed = Number.NEGATIVE_INFINITY;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest(
        "input:not([type=range]):not([type=checkbox]), textarea, select, [contenteditable]",
      );
      if (typing) typed = performance.now();
      const stepping = event.key.toLowerCase() === "z" && !typing;
      if (stepping) {
        event.preventDefault();
        void (event.shiftKey ? redo() : undo());
        return;
      }
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      const station = STATIONS[Number(event.key) - 1];
      if (station) {
        if (performance.now() - typed < JUST_TYPED_MS) return;
        navigate(`/${station}`);
      } else if (event.key === "b" || event.key === "B") press("blackout");
      else if (event.key === "l" || event.key === "L") makeSafe();
      else if (event.key === "t" || event.key === "T") act("tap", performance.now());
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [navigate]);
  return null;
}
