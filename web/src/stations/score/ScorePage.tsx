import { Box, Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap } from "../../components/atoms";
import { linesOf, onLine, pageOf, type Score, TURN } from "../../model/staff";
import type { PlayingScore } from "../../stores/live";
import { ink } from "../../theme/tokens";
import { StaffLine } from "./StaffLine";
import type { Fill } from "./useFill";
import type { ScoreEdits } from "./useScore";
import { useStrokes } from "./useStrokes";

interface PageProps {
  show: WholeShow;
  score: Score;
  edits: ScoreEdits;
  played: PlayingScore | undefined;
  fill: Fill;
}

/** Lines of eight bars under one another; more than fit are turned like pages, the one being played comes by itself. */
export function ScorePage({ show, score, edits, played, fill }: PageProps) {
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 900, height: 600 });
  const [page, setPage] = useState(0);
  useEffect(() => {
    const target = box.current;
    if (!target) return;
    const watch = new ResizeObserver(() =>
      setSize({ width: target.clientWidth, height: target.clientHeight }),
    );
    watch.observe(target);
    return () => watch.disconnect();
  }, []);
  const all = linesOf(score, size.width);
  const fits = pageOf(score, all.length, size.height);
  const pages = Math.ceil(all.length / fits.lines);
  const here = Math.min(page, pages - 1);
  const beat = played?.running ? played.beat : null;
  const at = beat === null ? -1 : all.findIndex((one) => onLine(one, beat, 1e-6));
  useEffect(() => {
    if (at >= 0) setPage(Math.floor(at / fits.lines));
  }, [at, fits.lines]);
  const offered = fill.found;
  const groupOf = new Map(score.staves.map((one) => [one.id, one.group]));
  const strokes = useStrokes(
    show,
    [...score.entries, ...(offered?.entries ?? [])].map((one) => [one.look, groupOf.get(one.stave) ?? ""]),
  );
  return (
    <Box
      ref={box}
      role="group"
      aria-label={`Pages of ${score.name}`}
      sx={{ flex: 1, minHeight: 0, overflowY: "auto", overflowX: "hidden" }}
    >
      {!score.staves.length && (
        <Cap sx={{ p: 2, fontSize: 13 }}>This score has no stave. Choose groups for it at the right.</Cap>
      )}
      {all.slice(here * fits.lines, (here + 1) * fits.lines).map((line) => (
        <StaffLine
          key={line.first}
          show={show}
          score={score}
          line={line}
          stave={fits.stave}
          edits={edits}
          offered={offered}
          strokes={strokes}
          running={played?.running === true}
          beat={beat !== null && onLine(line, beat, 1e-6) ? beat : null}
        />
      ))}
      {pages > 1 && (
        <Box sx={{ display: "flex", justifyContent: "center", alignItems: "center", gap: 1, height: TURN }}>
          <Button variant="text" disabled={!here} onClick={() => setPage(here - 1)}>
            Page before
          </Button>
          <span style={{ color: ink.soft, fontSize: 13 }}>
            page {here + 1} of {pages}
          </span>
          <Button variant="text" disabled={here >= pages - 1} onClick={() => setPage(here + 1)}>
            Next page
          </Button>
        </Box>
      )}
    </Box>
  );
}
