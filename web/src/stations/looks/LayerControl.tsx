import { Box } from "@mui/material";
import { useEffect, useRef } from "react";
import type { EffectView, WholeShow } from "../../api/client";
import { Cap, Chip } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import { ValueSlider } from "../../components/ValueSlider";
import { BLENDS, type Layer } from "../../model/layers";
import { readSpeed, saySpeed } from "../../model/values";
import { ink } from "../../theme/tokens";
import { ClipPart } from "./ClipPart";
import { EffectPicker } from "./EffectPicker";
import { FittingControl } from "./FittingControl";
import { RampControl } from "./RampControl";
import { SelectionAsLine } from "./SelectionAsLine";
import type { LayerEdits } from "./useLayerEdits";

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
  layer: Layer;
  effects: EffectView[];
  opened: Opened;
  edits: LayerEdits;
}

/** The control of an opened chip. Opening it changes nothing. */
export function LayerControl(props: ControlProps) {
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

function Inner({ show, layer, effects, opened, edits }: ControlProps) {
  const { move, commit } = edits;
  const matrix = show.matrices.find((one) => one.id === layer.matrix);
  const clip = show.clips.find((one) => one.id === layer.clip);
  switch (opened) {
    case "ramp":
      return <RampControl show={show} layer={layer} edits={edits} />;
    case "effect":
      return (
        <EffectPicker
          effects={effects}
          chosen={layer.effect}
          matrix={matrix}
          onChoose={(effect) => commit({ effect })}
        />
      );
    case "matrix":
      return (
        <>
          <Choices
            names={show.matrices.map((m) => [m.id, m.name])}
            chosen={layer.matrix}
            onChoose={(id) => commit({ matrix: id })}
          />
          <SelectionAsLine onMade={(id) => commit({ matrix: id })} />
        </>
      );
    case "clip":
      return (
        <Choices
          names={show.clips.map((c) => [c.id, c.name])}
          chosen={layer.clip}
          onChoose={(id) => commit({ clip: id })}
        />
      );
    case "blend":
      return (
        <Choices
          names={BLENDS.map((blend) => [blend, BLEND_SAYS[blend]])}
          chosen={layer.blend}
          onChoose={(blend) => commit({ blend })}
        />
      );
    case "opacity":
      return (
        <ValueSlider
          label="Opacity"
          value={layer.opacity * 100}
          minimum={0}
          maximum={100}
          unit="%"
          onMove={(value) => move({ opacity: value / 100 })}
          onCommit={(value) => commit({ opacity: value / 100 })}
        />
      );
    case "speed":
      return <SpeedControl layer={layer} onCommit={commit} />;
    case "part":
      return clip ? <ClipPart clip={clip} layer={layer} onCommit={commit} /> : null;
    case "fitting":
      return <FittingControl layer={layer} onCommit={commit} />;
    default:
      return <ParameterControl effects={effects} layer={layer} opened={opened} edits={edits} />;
  }
}

function ParameterControl({ effects, layer, opened, edits: { move, commit } }: Omit<ControlProps, "show">) {
  const name = opened.replace("param ", "");
  const effect = effects.find((one) => one.name === layer.effect);
  const parameter = effect?.parameters.find((one) => one.name === name);
  if (!parameter) return null;
  if (parameter.kind === "choice")
    return (
      <Choices
        names={parameter.choices.map((choice) => [choice, choice])}
        chosen={String(layer.params[name] ?? parameter.default)}
        onChoose={(choice) => commit({ params: { ...layer.params, [name]: choice } })}
      />
    );
  // A width in steps may go to thousands; the slider covers the useful part, typing the whole of it.
  const maximum = Math.min(parameter.maximum, name === "width" ? 100 : parameter.maximum);
  return (
    <ValueSlider
      label={name}
      value={Number(layer.params[name] ?? parameter.default)}
      minimum={parameter.minimum}
      maximum={maximum}
      limit={parameter.maximum}
      unit={parameter.unit}
      onMove={(value) => move({ params: { ...layer.params, [name]: value } })}
      onCommit={(value) => commit({ params: { ...layer.params, [name]: value } })}
    />
  );
}

const SPEEDS = ["1 s", "2 s", "4 s", "8 s", "1 beat", "2 beats", "1 bar", "2 bars", "4 bars"];
const CLIP_SPEEDS = ["25 %", "50 %", "100 %", "150 %", "200 %", "4 bars", "8 bars"];

function SpeedControl({ layer, onCommit }: { layer: Layer; onCommit: LayerEdits["commit"] }) {
  const isClip = layer.paints === "clip";
  const set = (text: string) => {
    const speed = readSpeed(text);
    if (!speed || (speed.unit === "times" && !isClip))
      return isClip
        ? "Type a percentage of its own speed like 100 %, or how long one round takes: 4 s, 8 beats, 2 bars."
        : "Type seconds like 4 s, or beats like 8 beats or 2 bars.";
    return onCommit({ speed });
  };
  return (
    <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center" }}>
      <Cap>{isClip ? "speed, or how long one round takes" : "one round takes"}</Cap>
      <Typed numeric width={92} label="Speed" value={saySpeed(layer.speed)} onCommit={set} />
      {(isClip ? CLIP_SPEEDS : SPEEDS).map((text) => (
        <Chip key={text} active={saySpeed(layer.speed) === text} onClick={() => set(text)}>
          {text}
        </Chip>
      ))}
    </Box>
  );
}
