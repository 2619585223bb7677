import { Box } from "@mui/material";
import { useEffect, useRef } from "react";
import type { EffectView, WholeShow } from "../../api/client";
import { Cap, Chip } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import { ValueSlider } from "../../components/ValueSlider";
import { BLENDS, type Line } from "../../model/lines";
import { readSpeed, saySpeed } from "../../model/values";
import { ink } from "../../theme/tokens";
import { ClipPart } from "./ClipPart";
import { EffectPicker } from "./EffectPicker";
import { FittingControl } from "./FittingControl";
import { RampControl } from "./RampControl";
import { SelectionAsLine } from "./SelectionAsLine";
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
  | "fitting"
  | `param ${string}`;

interface ControlProps {
  show: WholeShow;
  line: Line;
  effects: EffectView[];
  opened: Opened;
  edits: LineEdits;
}

/** The control of an opened chip. Opening it changes nothing. */
export function LineControl(props: ControlProps) {
  const here = useRef<HTMLDivElement>(null);
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

function Inner({ show, line, effects, opened, edits }: ControlProps) {
  const { move, commit } = edits;
  const matrix = show.matrices.find((one) => one.id === line.matrix);
  const clip = show.clips.find((one) => one.id === line.clip);
  switch (opened) {
    case "ramp":
      return <RampControl show={show} line={line} edits={edits} />;
    case "effect":
      return (
        <EffectPicker
          effects={effects}
          chosen={line.effect}
          matrix={matrix}
          onChoose={(effect) => commit({ effect })}
        />
      );
    case "matrix":
      return (
        <>
          <Choices
            names={show.matrices.map((m) => [m.id, m.name])}
            chosen={line.matrix}
            onChoose={(id) => commit({ matrix: id })}
          />
          <SelectionAsLine onMade={(id) => commit({ matrix: id })} />
        </>
      );
    case "clip":
      return (
        <Choices
          names={show.clips.map((c) => [c.id, c.name])}
          chosen={line.clip}
          onChoose={(id) => commit({ clip: id })}
        />
      );
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
        <ValueSlider
          label="Opacity"
          value={line.opacity * 100}
          minimum={0}
          maximum={100}
          unit="%"
          onMove={(value) => move({ opacity: value / 100 })}
          onCommit={(value) => commit({ opacity: value / 100 })}
        />
      );
    case "speed":
      return <SpeedControl line={line} onCommit={commit} />;
    case "part":
      return clip ? <ClipPart clip={clip} line={line} onCommit={commit} /> : null;
    case "fitting":
      return <FittingControl line={line} onCommit={commit} />;
    default:
      return <ParameterControl effects={effects} line={line} opened={opened} edits={edits} />;
  }
}

function ParameterControl({ effects, line, opened, edits: { move, commit } }: Omit<ControlProps, "show">) {
  const name = opened.replace("param ", "");
  const effect = effects.find((one) => one.name === line.effect);
  const parameter = effect?.parameters.find((one) => one.name === name);
  if (!parameter) return null;
  if (parameter.kind === "choice")
    return (
      <Choices
        names={parameter.choices.map((choice) => [choice, choice])}
        chosen={String(line.params[name] ?? parameter.default)}
        onChoose={(choice) => commit({ params: { ...line.params, [name]: choice } })}
      />
    );
  // A width in steps may go to thousands; the slider covers the useful part, typing the whole of it.
  const maximum = Math.min(parameter.maximum, name === "width" ? 100 : parameter.maximum);
  return (
    <ValueSlider
      label={name}
      value={Number(line.params[name] ?? parameter.default)}
      minimum={parameter.minimum}
      maximum={maximum}
      limit={parameter.maximum}
      unit={parameter.unit}
      onMove={(value) => move({ params: { ...line.params, [name]: value } })}
      onCommit={(value) => commit({ params: { ...line.params, [name]: value } })}
    />
  );
}

const SPEEDS = ["1 s", "2 s", "4 s", "8 s", "1 beat", "2 beats", "1 bar", "2 bars", "4 bars"];
const CLIP_SPEEDS = ["25 %", "50 %", "100 %", "150 %", "200 %", "4 bars", "8 bars"];

function SpeedControl({ line, onCommit }: { line: Line; onCommit: LineEdits["commit"] }) {
  const isClip = line.paints === "clip";
  const set = (text: string) => {
    const speed = readSpeed(text);
    if (!speed || (speed.unit === "times" && !isClip))
      return isClip
        ? "Type a percentage of its own speed like 100 %, or how long one round takes: 4 s, 8 beats, -2 bars (backward)."
        : "Type seconds like 4 s, or beats like 8 beats or -2 bars (backward).";
    return onCommit({ speed });
  };
  return (
    <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center" }}>
      <Cap>{isClip ? "speed, or how long one round takes" : "one round takes"}</Cap>
      <Typed numeric width={92} label="Speed" value={saySpeed(line.speed)} onCommit={set} />
      <Chip
        active={line.speed.value < 0}
        aria-pressed={line.speed.value < 0}
        title="A negative speed runs backward"
        onClick={() => onCommit({ speed: { ...line.speed, value: -line.speed.value } })}
      >
        backward
      </Chip>
      {(isClip ? CLIP_SPEEDS : SPEEDS).map((text) => (
        <Chip key={text} active={saySpeed(line.speed) === text} onClick={() => set(text)}>
          {text}
        </Chip>
      ))}
    </Box>
  );
}
