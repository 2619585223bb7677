import { Box } from "@mui/material";
import { useEffect, useRef } from "react";
import type { EffectView, LookView, WholeShow } from "../../api/client";
import { Choices } from "../../components/Choices";
import { ValueSlider } from "../../components/ValueSlider";
import { canvasOf, offered } from "../../model/canvases";
import { BLENDS, type Line } from "../../model/lines";
import { ink } from "../../theme/tokens";
import { AttributeControl } from "./attributes/AttributeControl";
import { SetsControl } from "./attributes/SetsControl";
import { ChaseControl } from "./ChaseControl";
import { ClipPart } from "./ClipPart";
import { DriveControl } from "./DriveControl";
import { EffectPicker } from "./EffectPicker";
import { EmitterOver } from "./EmitterOver";
import { FeedControl } from "./FeedControl";
import { FittingControl } from "./FittingControl";
import { ParameterControl } from "./ParameterControl";
import { RampControl } from "./RampControl";
import { RegionControl } from "./RegionControl";
import { SelectionOver } from "./SelectionOver";
import { SpeedControl } from "./SpeedControl";
import { ThroughControl } from "./ThroughControl";
import type { LineEdits } from "./useLineEdits";

export type Opened =
  | "effect"
  | "ramp"
  | "matrix"
  | "speed"
  | "opacity"
  | "blend"
  | "clip"
  | "part"
  | "chase"
  | "order"
  | "fitting"
  | "feed"
  | "lost"
  | "through"
  | "region"
  | "only"
  | "sets"
  | `set ${string}`
  | `param ${string}`;

interface ControlProps {
  show: WholeShow;
  look: LookView;
  line: Line;
  effects: EffectView[];
  opened: Opened;
  edits: LineEdits;
  onClose: () => void;
  onOpen: (what: Opened) => void;
}

/** The control of an opened chip. Opening it changes nothing. */
export function LineControl(props: ControlProps) {
  const here = useRef<HTMLDivElement>(null);
  const leave = useRef(props.edits.leave);
  leave.current = props.edits.leave;
  useEffect(() => () => leave.current(), []); // what was only tried is not left behind
  useEffect(() => {
    here.current?.scrollIntoView({ block: "nearest" }); // not returned: newer browsers answer a promise
  }, []);
  return (
    <Box
      ref={here}
      sx={{
        scrollMarginBottom: 12,
        mt: 1,
        ml: "26px",
        p: 1.5,
        border: `1px solid ${ink.hair}`,
        borderRadius: "6px",
        background: ink.panel,
      }}
    >
      <Inner {...props} />
    </Box>
  );
}

const BLEND_SAYS: Record<(typeof BLENDS)[number], string> = {
  over: "over: covers what lies beneath",
  add: "add: light upon light",
  multiply: "multiply: darkens, white changes nothing",
  lighten: "lighten: the brighter of both",
  darken: "darken: the darker of both",
};

const ONLY_SAYS = {
  "": "whole colours",
  hue: "only the hue",
  saturation: "only the saturation",
  light: "only the light",
} as const;

function Inner({ show, look, line, effects, opened, edits, onClose, onOpen }: ControlProps) {
  const { move, commit } = edits;
  const matrix = canvasOf(show, line);
  const kept = look.lines.find((one) => one.id === line.id);
  const stored = kept?.paints === "effect" ? kept.effect : "";
  const played = line.paints === "clip" ? line : null;
  const clip = show.clips.find((one) => one.id === played?.clip);
  switch (opened) {
    case "ramp":
      return (
        <>
          <RampControl look={look.id} show={show} line={line} edits={edits} />
          <DriveControl
            look={look.id}
            line={line}
            name="shift"
            says="place along the ramp"
            unit="%"
            each
            times={100}
            edits={edits}
          />
        </>
      );
    case "effect":
      return (
        <EffectPicker
          effects={effects}
          chosen={stored}
          matrix={matrix}
          onTry={(effect) => move({ effect })}
          onChoose={async (effect) => {
            if (line.paints !== "effect") return;
            await (effect === stored ? edits.leave() : commit({ effect }));
            onClose();
          }}
          onClose={() => {
            edits.leave();
            onClose();
          }}
        />
      );
    case "matrix":
      return (
        <>
          <Choices
            names={offered(show).map(([key, name]) => [key, name])}
            chosen={line.selection ? "" : line.canvas}
            onChoose={(id) => edits.type(offered(show).find(([key]) => key === id)?.[2] ?? {})}
          />
          <SelectionOver text={line.selection} onType={(selection) => edits.type({ selection })} />
          {line.paints !== "recolour" && line.paints !== "attributes" && !matrix?.emitter && (
            <EmitterOver look={look} line={line} onChoose={(emitter) => commit({ emitter })} />
          )}
        </>
      );
    case "clip":
      return (
        <Choices
          names={show.clips.map((c) => [c.id, c.name])}
          chosen={played?.clip ?? ""}
          onChoose={(id) => commit({ clip: id })}
        />
      );
    case "chase":
      return (
        <Choices
          names={show.chases.map((one) => [one.id, one.name])}
          chosen={line.paints === "chase" ? line.chase : ""}
          onChoose={(chase) => commit({ chase })}
        />
      );
    case "order":
      return line.paints === "chase" && <ChaseControl line={line} edits={edits} />;
    case "blend":
      return (
        <Choices
          names={BLENDS.map((blend) => [blend, BLEND_SAYS[blend]])}
          chosen={line.blend}
          onChoose={(blend) => commit({ blend })}
        />
      );
    case "opacity":
      return (
        <>
          <ValueSlider
            label="Opacity"
            value={line.opacity * 100}
            minimum={0}
            maximum={100}
            unit="%"
            onMove={(value) => move({ opacity: value / 100 })}
            onCommit={(value) => commit({ opacity: value / 100 })}
          />
          <DriveControl
            look={look.id}
            line={line}
            name="opacity"
            unit="%"
            each={false}
            times={100}
            edits={edits}
          />
        </>
      );
    case "through":
      return <ThroughControl show={show} look={look} line={line} edits={edits} />;
    case "region":
      return <RegionControl line={line} matrix={matrix} edits={edits} />;
    case "only":
      return (
        <Choices
          names={(Object.keys(ONLY_SAYS) as Line["only"][]).map((one) => [one, ONLY_SAYS[one]])}
          chosen={line.only}
          onChoose={(only) => commit({ only })}
        />
      );
    case "speed":
      return "speed" in line && <SpeedControl look={look.id} line={line} edits={edits} />;
    case "part":
      return played && clip ? <ClipPart clip={clip} line={played} onCommit={commit} /> : null;
    case "fitting":
      return line.paints === "clip" || line.paints === "feed" ? (
        <FittingControl line={line} onCommit={commit} onType={edits.type} />
      ) : null;
    case "feed":
    case "lost":
      return line.paints === "feed" && <FeedControl line={line} edits={edits} />;
    case "sets":
      return (
        line.paints === "attributes" && (
          <SetsControl show={show} look={look} line={line} edits={edits} onOpen={onOpen} />
        )
      );
    default:
      if (line.paints === "attributes")
        return <AttributeControl look={look} line={line} name={opened.replace("set ", "")} edits={edits} />;
      return line.paints !== "effect" && line.paints !== "recolour" ? null : (
        <ParameterControl look={look.id} line={line} name={opened.replace("param ", "")} edits={edits} />
      );
  }
}
