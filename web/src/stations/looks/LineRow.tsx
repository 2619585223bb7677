import { Box } from "@mui/material";
import { useEffect, useState } from "react";
import type { EffectView, LookView, WholeShow } from "../../api/client";
import { FaultNote } from "../../components/atoms";
import { PreviewCanvas } from "../../components/PreviewCanvas";
import { canvasOf } from "../../model/canvases";
import { type Line, shapeOf } from "../../model/lines";
import { toPercent } from "../../model/values";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { AttributeGlyph } from "./attributes/AttributeGlyph";
import { Driven } from "./DrivenChip";
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
}

/** One line as a line in words with its miniature; a chip opens its control beneath. */
export function LineRow({ show, look, line: stored, effects, place }: LineProps) {
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
      ...(stored.paints === "effect" ? { r: edits.surprise } : {}),
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
        <Box sx={{ pt: "3px", opacity: line.mute || line.aside || line.stencil ? 0.35 : 1 }}>
          {stored.paints === "attributes" ? (
            <AttributeGlyph line={stored} />
          ) : (
            <PreviewCanvas
              kind="line"
              id={stored.id}
              label={`Line ${place} alone`}
              width={72}
              height={28}
              smooth
            />
          )}
        </Box>
        <Box sx={{ fontSize: 14.5, lineHeight: "29px", opacity: line.mute || line.aside ? 0.5 : 1 }}>
          <LineWords
            show={show}
            look={look}
            line={line}
            effects={effects}
            chosen={chosen}
            opened={opened}
            onOpen={open}
          />
          <Decoding show={show} line={line} />
          {line.paints !== "attributes" &&
            (line.selection || line.group) &&
            canvasOf(show, line)?.placements.fixtures.length === 0 && (
              <FaultNote
                what={`${line.selection ? `'${line.selection}' means` : "This group has"} no cells now: nothing is painted.`}
                repair="Choose what it is painted over."
              />
            )}
        </Box>
        <Share look={look.id} line={line} opened={opened} onOpen={open} />
      </Box>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      {chosen && <LineActions look={look} edits={edits} line={line} place={place} of={look.lines.length} />}
      {opened && (
        <LineControl
          key={opened}
          show={show}
          look={look}
          line={line}
          effects={effects}
          opened={opened}
          edits={edits}
          onClose={() => setOpened(null)}
          onOpen={open}
        />
      )}
    </Box>
  );
}

/** How much of what lies beneath a line covers, and how it mixes. */
function Share({
  look,
  line,
  opened,
  onOpen,
}: {
  look: string;
  line: Line;
  opened: Opened | null;
  onOpen: (what: Opened) => void;
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
        aria-label={`Opacity ${toPercent(line.opacity)} %`}
        aria-expanded={opened === "opacity"}
        onClick={() => onOpen("opacity")}
        sx={{
          ...quiet,
          whiteSpace: "nowrap",
          "& svg": { mr: 0.75 },
          font: `500 15px ${mono}`,
          color: opened === "opacity" ? ink.brass : ink.text,
        }}
      >
        <Driven look={look} line={line} name="opacity" times={100}>
          {toPercent(line.opacity)}
        </Driven>{" "}
        %
      </Box>
      {line.paints !== "attributes" && (
        <Box
          component="button"
          aria-label={`Blend ${line.blend}`}
          aria-expanded={opened === "blend"}
          onClick={() => onOpen("blend")}
          sx={{ ...quiet, fontSize: 12.5, color: opened === "blend" ? ink.brass : ink.soft }}
        >
          {line.blend}
        </Box>
      )}
      {(line.mute || line.solo || line.stencil || line.aside) && (
        <Box sx={{ fontSize: 12, color: ink.brass, textAlign: "right", px: 0.5 }}>
          {line.mute ? "muted" : line.stencil ? "stencil" : line.solo ? "solo" : "aside"}
        </Box>
      )}
    </Box>
  );
}

/** Why a clip does not show yet, or cannot. */
function Decoding({ show, line }: { show: WholeShow; line: Line }) {
  const played = line.paints === "clip" ? line : null;
  const clip = show.clips.find((one) => one.id === played?.clip);
  const matrix = canvasOf(show, line);
  const shape = played && shapeOf(played.fitting);
  const work = useLive((live) =>
    live.media?.clips.find(
      (one) =>
        one.content === clip?.content &&
        one.width === matrix?.width &&
        one.height === matrix?.height &&
        one.shape === shape,
    ),
  );
  if (!played || !work) return null;
  if (work.fault) return <FaultNote what={work.fault} />;
  if (work.ready >= 1) return null;
  return (
    <Box role="status" sx={{ fontSize: 13, lineHeight: "20px", color: ink.soft }}>
      decoding, {Math.floor(work.ready * 100)} %; what is not there yet holds its last frame
    </Box>
  );
}
