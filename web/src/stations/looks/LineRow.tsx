import { Box } from "@mui/material";
import { useEffect, useState } from "react";
import type { EffectView, LookView, WholeShow } from "../../api/client";
import { FaultNote } from "../../components/atoms";
import { PreviewCanvas } from "../../components/PreviewCanvas";
import { AS_IT_IS, type Line, shapeOf } from "../../model/lines";
import { toPercent } from "../../model/values";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { LineActions } from "./LineActions";
import { LineControl, type Opened } from "./LineControl";
import { LineWords } from "./LineWords";
import { useLineEdits } from "./useLineEdits";

interface LineProps {
  show: WholeShow;
  look: LookView;
  line: Line;
  effects: EffectView[];
  place: number;
  /** Another line is solo, so this one is not painted. */
  aside: boolean;
}

/** One line as a line in words with its miniature; a chip opens its control beneath. */
export function LineRow({ show, look, line: stored, effects, place, aside }: LineProps) {
  const chosen = useView((view) => view.line === stored.id);
  const [opened, setOpened] = useState<Opened | null>(null);
  const edits = useLineEdits(show, look, stored);
  const { line, fault } = edits;
  const choose = () => useView.setState({ line: stored.id });
  const open = (what: Opened) => {
    choose();
    setOpened(opened === what ? null : what);
  };
  useEffect(() => {
    if (!chosen) return;
    const keys: Record<string, () => unknown> = {
      m: () => edits.commit({ mute: !stored.mute }),
      s: () => edits.commit({ solo: !stored.solo }),
      d: edits.duplicate,
      Delete: edits.remove,
      "alt ArrowUp": () => edits.shift(1),
      "alt ArrowDown": () => edits.shift(-1),
    };
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || target.closest("input, textarea, [role=slider]")) return;
      const run = keys[`${event.altKey ? "alt " : ""}${event.key}`];
      if (!run) return;
      event.preventDefault();
      void run();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [chosen, edits, stored]);

  return (
    <Box
      role="group"
      aria-label={`Line ${place}`}
      aria-current={chosen}
      onClick={choose} // not on the press: what opens must not move the button away from under the pointer
      sx={{
        borderBottom: `1px solid ${ink.hair}`,
        background: chosen ? `linear-gradient(90deg, ${ink.brassGround}, transparent 70%)` : "none",
        boxShadow: chosen ? `inset 3px 0 ${ink.brass}` : "none",
        px: 2,
        py: 1.4,
      }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: "14px 72px minmax(0,1fr) auto", gap: 1.5 }}>
        <Box sx={{ font: `500 13px ${mono}`, color: ink.faint, pt: 0.5, textAlign: "right" }}>{place}</Box>
        <Box sx={{ pt: "3px", opacity: line.mute || aside ? 0.35 : 1 }}>
          <PreviewCanvas
            kind="line"
            id={stored.id}
            label={`Line ${place} alone`}
            width={72}
            height={28}
            smooth
          />
        </Box>
        <Box sx={{ fontSize: 14.5, lineHeight: "29px", opacity: line.mute || aside ? 0.5 : 1 }}>
          <LineWords show={show} line={line} effects={effects} opened={opened} onOpen={open} />
          <Decoding show={show} line={line} />
        </Box>
        <Share line={line} opened={opened} onOpen={open} aside={aside} />
      </Box>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      {chosen && <LineActions edits={edits} line={line} place={place} of={look.lines.length} />}
      {opened && (
        <LineControl key={opened} show={show} line={line} effects={effects} opened={opened} edits={edits} />
      )}
    </Box>
  );
}

/** How much of what lies beneath a line covers, and how it mixes. */
function Share({
  line,
  opened,
  onOpen,
  aside,
}: {
  line: Line;
  opened: Opened | null;
  onOpen: (what: Opened) => void;
  aside: boolean;
}) {
  const quiet = {
    display: "block",
    ml: "auto",
    p: 0,
    px: 0.5,
    border: 0,
    background: "none",
    font: "inherit",
    cursor: "pointer",
    borderRadius: "3px",
    textAlign: "right",
    "&:hover": { background: ink.row },
  } as const;
  return (
    <Box sx={{ minWidth: 66, pt: "2px" }}>
      <Box
        component="button"
        aria-label="Opacity"
        aria-expanded={opened === "opacity"}
        onClick={() => onOpen("opacity")}
        sx={{ ...quiet, font: `500 15px ${mono}`, color: opened === "opacity" ? ink.brass : ink.text }}
      >
        {toPercent(line.opacity)} %
      </Box>
      <Box
        component="button"
        aria-label={`Blend ${line.blend}`}
        aria-expanded={opened === "blend"}
        onClick={() => onOpen("blend")}
        sx={{ ...quiet, fontSize: 12.5, color: opened === "blend" ? ink.brass : ink.soft }}
      >
        {line.blend}
      </Box>
      {(line.mute || line.solo || aside) && (
        <Box sx={{ fontSize: 12, color: ink.brass, textAlign: "right", px: 0.5 }}>
          {line.mute ? "muted" : line.solo ? "solo" : "aside"}
        </Box>
      )}
    </Box>
  );
}

/** Why a clip does not show yet, or cannot. */
function Decoding({ show, line }: { show: WholeShow; line: Line }) {
  const clip = show.clips.find((one) => one.id === line.clip);
  const matrix = show.matrices.find((one) => one.id === line.matrix);
  const shape = shapeOf(line.fitting ?? AS_IT_IS);
  const work = useLive((live) =>
    live.media?.clips.find(
      (one) =>
        one.content === clip?.content &&
        one.width === matrix?.width &&
        one.height === matrix?.height &&
        one.shape === shape,
    ),
  );
  if (line.paints !== "clip" || !work) return null;
  if (work.fault) return <FaultNote what={work.fault} />;
  if (work.ready >= 1) return null;
  return (
    <Box role="status" sx={{ fontSize: 13, lineHeight: "20px", color: ink.soft }}>
      decoding, {Math.floor(work.ready * 100)} %; what is not there yet holds its last frame
    </Box>
  );
}
