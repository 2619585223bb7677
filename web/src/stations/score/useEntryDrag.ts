import { type PointerEvent, type RefObject, useState } from "react";
import { type Entry, HEAD, type Line, type Score } from "../../model/staff";
import { useView } from "../../stores/view";
import type { ScoreEdits } from "./useScore";

interface Dragged {
  ids: string[];
  edge: boolean;
  beats: number;
  staves: number;
}

interface DragProps {
  score: Score;
  line: Line;
  stave: number;
  svg: RefObject<SVGSVGElement | null>;
  edits: ScoreEdits;
}

/** Choosing entries by press, moving them by beats and onto other staves, and drawing their end; held until it is stored. */
export function useEntryDrag({ score, line, stave, svg, edits }: DragProps) {
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const perBeat = line.width / (line.last - line.first);

  const begin = (entry: Entry, down: PointerEvent, edge: boolean) => {
    down.stopPropagation();
    down.preventDefault();
    const before = useView.getState().entries;
    const more = down.shiftKey || down.ctrlKey || down.metaKey;
    const ids = before.includes(entry.id) ? before : more ? [...before, entry.id] : [entry.id];
    useView.setState({ entries: ids, stave: entry.stave });
    const from = score.staves.findIndex((one) => one.id === entry.stave);
    let last: Dragged = { ids, edge, beats: 0, staves: 0 };
    const move = (event: globalThis.PointerEvent) => {
      const top = svg.current?.getBoundingClientRect().top ?? 0;
      const onto = Math.floor((event.clientY - top - HEAD) / stave);
      const staves = Math.min(Math.max(onto, 0), score.staves.length - 1) - from;
      last = {
        ids,
        edge,
        beats: Math.round((event.clientX - down.clientX) / perBeat),
        staves: edge || ids.length > 1 ? 0 : staves,
      };
      setDragged(last);
    };
    const up = async () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      window.removeEventListener("pointercancel", cancel);
      const target = last.staves ? (score.staves[from + last.staves]?.id ?? "") : "";
      if (edge && last.beats)
        await edits.set([entry.id], {
          place: `${entry.begins} for ${Math.max(entry.length + last.beats, 0.5)} beats`,
        });
      else if (last.beats || target) await edits.shift(ids, last.beats, target);
      setDragged(null);
    };
    const cancel = () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      window.removeEventListener("pointercancel", cancel);
      setDragged(null);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
    window.addEventListener("pointercancel", cancel);
  };

  const shifted = (entry: Entry) =>
    dragged?.ids.includes(entry.id)
      ? {
          beats: dragged.edge ? 0 : dragged.beats,
          y: dragged.staves * stave,
          longer: dragged.edge ? dragged.beats : 0,
        }
      : null;
  return { begin, shifted };
}
