import { Box, MenuItem, Select } from "@mui/material";
import { useState } from "react";
import type { EffectView, LookView, WholeShow } from "../../api/client";
import { Cap, Chip, FaultNote } from "../../components/atoms";
import { isOver, type Over, offered } from "../../model/canvases";
import { ink } from "../../theme/tokens";
import { EffectPicker } from "./EffectPicker";
import {
  attributeLine,
  chaseLine,
  clipLine,
  effectLine,
  feedLine,
  type NewLine,
  recolourLine,
} from "./newLines";
import { useAddLine } from "./useAddLine";
import type { Uploads } from "./useUploads";

interface AdderProps {
  show: WholeShow;
  look: LookView;
  effects: EffectView[];
  /** What a new line is painted over unless something else is chosen. */
  over: Over;
  uploads: Uploads;
}

/** Adding a line, always in sight: an effect by its moving picture, or a clip. Open as long as there is no line yet. */
export function LineAdder({ show, look, effects, over: usual, uploads }: AdderProps) {
  const addLine = useAddLine(look);
  const [asked, setAsked] = useState(false);
  const [picked, setPicked] = useState<string | null>(null);
  const there = offered(show);
  const over =
    there.find(([key]) => key === picked)?.[2] ?? (isOver(usual) ? usual : (there[0]?.[2] ?? usual));
  const can = isOver(over);
  const [key] = Object.values(over);
  const empty = look.lines.length === 0;
  const open = (asked || empty) && can;
  const add = async (body: NewLine) => {
    await addLine(body);
    setAsked(false);
  };
  return (
    <>
      {open && (
        <Box
          sx={{
            px: 2,
            py: 1.25,
            overflowY: "auto",
            flex: empty ? "1 1 0" : "0 1 auto",
            maxHeight: empty ? "none" : "min(52vh, 430px)",
            minHeight: 120,
            borderTop: `1px solid ${ink.hair}`,
            background: ink.panel,
          }}
        >
          <EffectPicker
            effects={effects}
            chosen=""
            matrix={[...show.matrices, ...show.canvases].find((one) => one.id === key)}
            focused={asked}
            beside={
              there.length > 1 && (
                <Box sx={{ float: "right", display: "flex", gap: 0.75, alignItems: "center", pt: "2px" }}>
                  <Cap>over</Cap>
                  <Select
                    variant="standard"
                    value={there.some(([one]) => one === key) ? key : ""}
                    inputProps={{ "aria-label": "What the new line is painted over" }}
                    sx={{ fontSize: 13, maxWidth: 200 }}
                    onChange={(event) => setPicked(event.target.value)}
                  >
                    {there.map(([one, name]) => (
                      <MenuItem key={one} value={one}>
                        {name}
                      </MenuItem>
                    ))}
                  </Select>
                </Box>
              )
            }
            onChoose={(effect) => add(effectLine(effect, over))}
            onClose={() => setAsked(false)}
          />
        </Box>
      )}
      <Box
        sx={{
          px: 2,
          py: 1.25,
          display: "flex",
          gap: 0.75,
          alignItems: "center",
          flexWrap: "wrap",
          flex: "none",
          borderTop: `1px solid ${ink.hair}`,
        }}
      >
        <Cap>Add a line:</Cap>
        <Chip active={open} aria-expanded={open} disabled={!can} onClick={() => setAsked(!asked)}>
          effect
        </Chip>
        {show.clips.map((clip) => (
          <Chip key={clip.id} disabled={!can} onClick={() => add(clipLine(clip.id, over))}>
            clip {clip.name}
          </Chip>
        ))}
        {show.chases.map((chase) => (
          <Chip key={chase.id} disabled={!can} onClick={() => add(chaseLine(chase.id, over))}>
            chase {chase.name}
          </Chip>
        ))}
        {!empty && (
          <Chip
            disabled={!can}
            title="Makes other colours of what lies beneath it"
            onClick={() => add(recolourLine(over))}
          >
            recolour
          </Chip>
        )}
        <Chip
          disabled={!can}
          title="A live picture: a stream, a camera, or MJPEG by HTTP"
          onClick={() => add(feedLine(over))}
        >
          feed
        </Chip>
        <Chip
          disabled={!can}
          title="Position, shutter, gobo and the like of its fixtures, by their words"
          onClick={() => add(attributeLine(over))}
        >
          attributes
        </Chip>
        {uploads.progress !== null && <Cap role="status">uploading {uploads.name}</Cap>}
        {uploads.fault && <FaultNote what={uploads.fault.what} repair={uploads.fault.repair} />}
        {!can && <Cap>There is nothing to paint on: make a matrix (key 3) or a group (key 1) first.</Cap>}
      </Box>
    </>
  );
}
