import { useEffect, useRef } from "react";
import type { WholeShow } from "../../api/client";
import { ACCENT_KEYS, type Score } from "../../model/staff";
import { act } from "../../stores/hands";
import { useView } from "../../stores/view";
import type { Fill } from "./useFill";
import { pressScore, type ScoreEdits } from "./useScore";

interface KeysProps {
  show: WholeShow;
  score: Score;
  edits: ScoreEdits;
  running: boolean;
  fill: Fill;
  onWrong: (what: string) => void;
}

/**
 * Space is the main list's Go here too. P starts the score, H holds it, R lets go of it; letters set accents while it
 * runs, a stave each; Delete and arrows work on what is chosen; Enter, N and Escape on what Fill offers.
 */
export function useScoreKeys(props: KeysProps): void {
  const now = useRef(props);
  now.current = props;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest("input, textarea, select, [contenteditable]")) return;
      if (onButton(event, target)) return;
      if (pressed(event, now.current)) event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

const onButton = (event: KeyboardEvent, target: HTMLElement): boolean =>
  (event.key === " " || event.key === "Enter") && target.closest("button, a, [role=slider]") !== null;

/** Whether the key did something. */
function pressed(event: KeyboardEvent, { show, score, edits, running, fill, onWrong }: KeysProps): boolean {
  const key = event.key.toUpperCase();
  const { entries } = useView.getState();
  if (fill.found && key === "ENTER") void fill.keep();
  else if (fill.found && key === "N") fill.anew();
  else if (fill.found && key === "ESCAPE") fill.drop();
  else if (key === "ESCAPE") useView.setState({ entries: [] });
  else if (key === " " && !event.repeat) {
    const main = show.cue_lists.find((one) => one.main);
    if (main) act(`list/${main.id}/go`, null);
  } else if (key === "P" && !event.repeat) pressScore(score.id, "start");
  else if (key === "H" && !event.repeat) pressScore(score.id, "hold");
  else if (key === "R" && !event.repeat) pressScore(score.id, "release");
  else if ((key === "DELETE" || key === "BACKSPACE") && entries.length) void edits.drop(entries);
  else if (key === "ARROWLEFT" && entries.length)
    void edits.shift(entries, event.shiftKey ? -score.bar_beats : -1);
  else if (key === "ARROWRIGHT" && entries.length)
    void edits.shift(entries, event.shiftKey ? score.bar_beats : 1);
  else if (running && !event.repeat) return accented(key, score, edits, onWrong);
  else return false;
  return true;
}

function accented(key: string, score: Score, edits: ScoreEdits, onWrong: (what: string) => void): boolean {
  const stave = score.staves[ACCENT_KEYS.indexOf(key as (typeof ACCENT_KEYS)[number])];
  if (!stave) return false;
  void edits.accent(stave.id, null).then(onWrong);
  return true;
}
