import { Box, Button } from "@mui/material";
import { useState } from "react";
import { Cap, Chip, KeyCap, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { NO_NUMBER, round, typedNumber } from "../../model/values";
import { ink } from "../../theme/tokens";
import type { ChaseNow } from "./ChaseSide";
import { FrameCard } from "./FrameCard";
import type { ChaseEdits } from "./useChaseEdits";
import type { Chase } from "./useFramePicture";

interface StripProps {
  chase: Chase;
  edits: ChaseEdits;
  /** The frame that is drawn on. */
  here: number;
  onHere: (frame: number) => void;
  /** Where each line that plays it is. */
  playing: ChaseNow[];
  onStep: (name: "next" | "previous") => void;
}

interface Copied {
  chase: string;
  frames: string[];
  pictures: string[];
  /** Cut: they leave the place where they are once they are pasted. */
  moved: boolean;
}

/** Frames copied here can be pasted into another chase of the same size. */
let copied: Copied | null = null;

/** The frames in their order with their times; chosen ones are copied, timed, turned round and taken away together. */
export function Strip({ chase, edits, here, onHere, playing, onStep }: StripProps) {
  const [chosen, setChosen] = useState<number[]>([here]);
  const [pasting, setPasting] = useState(false);
  const [wrong, setWrong] = useState("");
  const [said, setSaid] = useState("");
  const frames = chase.frames;
  const picked = chosen.filter((frame) => frame < frames.length);
  const last = Math.max(...(picked.length ? picked : [here]));
  const unit = chase.unit === "s" ? "s" : "beats";
  const run = async (body: Parameters<ChaseEdits["frames"]>[0], then?: () => void) => {
    const problem = await edits.frames(body);
    setWrong(problem);
    if (!problem) then?.();
    return problem;
  };
  const choose = (frame: number, event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    onHere(frame);
    if (event.shiftKey) {
      const [low, high] = [Math.min(here, frame), Math.max(here, frame)];
      setChosen(Array.from({ length: high - low + 1 }, (_, n) => low + n));
    } else if (event.ctrlKey || event.metaKey)
      setChosen(picked.includes(frame) ? picked.filter((one) => one !== frame) : [...picked, frame]);
    else setChosen([frame]);
  };
  const ids = [...picked].sort((a, b) => a - b).map((n) => frames[n]?.id ?? "");
  const take = (moved: boolean) => {
    const pictures = frames.filter((frame) => ids.includes(frame.id)).map((frame) => frame.picture);
    copied = { chase: chase.id, frames: ids, pictures, moved };
    setSaid(moved ? "They move to where you paste them." : "");
    setWrong("");
  };
  const afterId = frames[last]?.id ?? "";
  const before = (id: string) => frames.findIndex((frame) => frame.id === id) <= last;
  const settle = (frame: number) => {
    setChosen([frame]);
    onHere(frame);
  };
  const paste = () => {
    if (!copied) return setWrong("Nothing is copied yet.");
    setPasting(true);
  };
  const put = () => {
    if (!copied) return;
    const { chase: source, frames: from, moved } = copied;
    setPasting(false);
    setSaid("");
    const away = moved && source === chase.id ? from.filter(before).length : 0;
    void run({ do: "paste", source, frames: from, after: afterId, moved }, () => settle(last + 1 - away));
    if (moved) copied = null;
  };
  const onKey = (event: React.KeyboardEvent) => {
    if ((event.target as HTMLElement).closest("input")) return;
    const ctrl = event.ctrlKey || event.metaKey;
    if (pasting && event.key === "Enter") put();
    else if (pasting && event.key === "Escape") setPasting(false);
    else if (ctrl && event.key === "c") take(false);
    else if (ctrl && event.key === "x") take(true);
    else if (ctrl && event.key === "v") paste();
    else if (event.key === "Delete") void run({ do: "delete", frames: ids }, () => settle(0));
    else if (event.key === "ArrowRight" || event.key === "ArrowLeft") {
      const to = Math.min(Math.max(here + (event.key === "ArrowRight" ? 1 : -1), 0), frames.length - 1);
      choose(to, event);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const length = picked.reduce((sum, n) => sum + (frames[n]?.fade ?? 0) + (frames[n]?.hold ?? 0), 0);
  const says =
    picked.length === 1 ? `frame ${(picked[0] ?? 0) + 1} chosen` : `${picked.length} frames chosen`;
  return (
    <Box onKeyDown={onKey} sx={{ borderTop: `1px solid ${ink.hair}`, px: 2, pt: 1, pb: 1.25 }}>
      <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap", minHeight: 30 }}>
        <Cap sx={{ color: ink.brass, mr: 0.5 }}>{says}</Cap>
        <Chip onClick={() => take(false)}>copy</Chip>
        <Chip onClick={() => take(true)}>cut</Chip>
        <Chip active={pasting} aria-pressed={pasting} onClick={paste}>
          paste
        </Chip>
        <Chip disabled={picked.length < 2} onClick={() => void run({ do: "reverse", frames: ids })}>
          reverse
        </Chip>
        <Cap sx={{ ml: 0.5 }}>together</Cap>
        <Typed
          numeric
          width={64}
          label="How long the chosen frames last together"
          value={String(round(length, 3))}
          onCommit={(text) => {
            const typed = typedNumber(text);
            return typed === null ? NO_NUMBER : run({ do: "spread", frames: ids, length: typed });
          }}
        />
        <Cap>{unit}</Cap>
        <Button
          sx={{ ml: "auto" }}
          onClick={() => void run({ do: "insert", after: afterId }, () => settle(last + 1))}
        >
          Add a frame
        </Button>
      </Box>
      {pasting && copied && (
        <Cap role="status" sx={{ color: ink.brass }}>
          <KeyCap>Enter</KeyCap> puts {copied.frames.length} in after {last + 1}, <KeyCap>Esc</KeyCap> leaves
          them out
        </Cap>
      )}
      {said && !pasting && (
        <Cap role="status" sx={{ color: ink.brass }}>
          {said}
        </Cap>
      )}
      {wrong && (
        <Cap role="alert" sx={{ color: ink.brass }}>
          {wrong}
        </Cap>
      )}
      <Box
        role="group"
        aria-label="Frames"
        tabIndex={0}
        sx={{ display: "flex", gap: 1, overflowX: "auto", py: 0.75, minHeight: 132 }}
      >
        {frames.map((frame, n) => (
          <FrameCard
            key={frame.id}
            chase={chase}
            place={n}
            frame={frame}
            here={n === here}
            chosen={picked.includes(n)}
            now={playing.find((one) => one.frame === n)}
            onChoose={(event) => choose(n, event)}
            onTime={(times) => run({ do: "times", frames: picked.includes(n) ? ids : [frame.id], ...times })}
            ghosts={
              pasting && copied && n === last ? { chase: copied.chase, pictures: copied.pictures } : null
            }
          />
        ))}
      </Box>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Button disabled={!playing.length} onClick={() => onStep("previous")}>
          previous <KeyCap>,</KeyCap>
        </Button>
        <Cap role="status" sx={{ color: playing.length ? ink.sea : ink.soft }}>
          {playing[0] ? (
            <>
              on the wire frame <Num>{playing[0].frame + 1}</Num>
              {playing[0].left_s !== null && (
                <>
                  , <Num>{playing[0].left_s.toFixed(1)}</Num> s left
                </>
              )}
            </>
          ) : (
            "not on the wire"
          )}
        </Cap>
        <Button disabled={!playing.length} onClick={() => onStep("next")}>
          next <KeyCap>.</KeyCap>
        </Button>
        <Cap sx={{ ml: "auto" }}>
          <Num>{frames.length}</Num> {frames.length === 1 ? "frame" : "frames"},{" "}
          <Num>{round(chase.length, 3)}</Num>
        </Cap>
        {(["s", "beat"] as const).map((one) => (
          <Chip
            key={one}
            active={chase.unit === one}
            aria-pressed={chase.unit === one}
            onClick={() => chase.unit !== one && void edits.change({ unit: one })}
          >
            {one === "s" ? "seconds" : "beats"}
          </Chip>
        ))}
      </Box>
    </Box>
  );
}
