import { Box, Button } from "@mui/material";
import { useState } from "react";
import { useLocation } from "wouter";
import { Cap, FaultNote } from "../../components/atoms";
import { Field } from "../../components/Field";
import type { Bead } from "../../model/placements";
import { asNumbers, keyOf, readStrand, type Square } from "../../model/squares";
import { say } from "../../stores/notices";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";

interface PickingProps {
  beads: Bead[];
  picked: Set<string>;
  cursor: Square | null;
  onPick: (found: Bead[]) => void;
  onLift: () => void;
}

/** Chooses many cells at once: the row or column of the cursor, a range of the strand, a frame; and what to do with them. */
export function Picking({ beads, picked, cursor, onPick, onLift }: PickingProps) {
  const [strand, setStrand] = useState("");
  const [wrong, setWrong] = useState("");
  const [, navigate] = useLocation();
  const chosen = beads.filter((one) => picked.has(keyOf(one)));
  const line = (axis: 0 | 1) => {
    const at = (cursor?.[axis] ?? 0) + 0.5;
    onPick(
      beads.filter((one) => (axis ? at >= one.y && at < one.y + one.h : at >= one.x && at < one.x + one.w)),
    );
  };
  const alongStrand = () => {
    const read = readStrand(strand, beads.length);
    if (typeof read === "string") return setWrong(read);
    setWrong("");
    onPick(read.flatMap((n) => beads[n] ?? []));
  };
  return (
    <Box
      role="group"
      aria-label="Choose squares"
      sx={{ px: 2, py: 0.75, borderBottom: `1px solid ${ink.hair}`, background: ink.panel }}
    >
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, alignItems: "center", fontSize: 13 }}>
        <Cap>choose</Cap>
        <Button disabled={!cursor} onClick={() => line(1)}>
          its row
        </Button>
        <Button disabled={!cursor} onClick={() => line(0)}>
          its column
        </Button>
        <Cap sx={{ ml: 0.5 }}>of the strand</Cap>
        <Field
          width={84}
          label="Range of the strand"
          placeholder="5-20"
          value={strand}
          onChange={setStrand}
          onKeyDown={(event) => event.key === "Enter" && alongStrand()}
        />
        {chosen.length > 0 && (
          <>
            <Cap sx={{ ml: 1.5, color: ink.brass }}>{chosen.length} chosen</Cap>
            <Button onClick={onLift}>To the tray</Button>
            <Button
              onClick={() => {
                useView.setState({
                  fixtures: [...new Set(chosen.map((one) => one.fixture.id))],
                  parts: chosen.map(keyOf),
                  emitter: "",
                });
                navigate("/rig");
              }}
            >
              Choose at Rig
            </Button>
            <Button
              onClick={() => {
                void navigator.clipboard?.writeText(asNumbers(chosen));
                say(`${chosen.length} squares copied as numbers`);
              }}
            >
              Copy numbers
            </Button>
            <Button variant="text" onClick={() => onPick([])}>
              None
            </Button>
          </>
        )}
      </Box>
      {wrong && <FaultNote what={wrong} />}
    </Box>
  );
}
