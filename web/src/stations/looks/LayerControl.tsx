import { Box } from "@mui/material";
import type { EffectView, WholeShow } from "../../api/client";
import { Cap, Chip } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { ValueSlider } from "../../components/ValueSlider";
import type { Layer } from "../../model/layers";
import { readSpeed, saySpeed } from "../../model/values";
import { ink } from "../../theme/tokens";
import { RampEditor } from "./RampEditor";

export type Opened = "effect" | "ramp" | "matrix" | "speed" | "opacity" | "clip" | `param ${string}`;

interface ControlProps {
  show: WholeShow;
  layer: Layer;
  effects: EffectView[];
  opened: Opened;
  onMove: (changes: Partial<Layer>) => void;
  onCommit: (changes: Partial<Layer>) => unknown;
}

/** The control of an opened chip. Opening it changes nothing. */
export function LayerControl(props: ControlProps) {
  return (
    <Box
      sx={{
        mt: 1.25,
        ml: "30px",
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

function Inner({ show, layer, effects, opened, onMove, onCommit }: ControlProps) {
  if (opened === "ramp")
    return (
      <RampEditor
        stops={layer.ramp}
        onMove={(ramp) => onMove({ ramp })}
        onCommit={(ramp) => onCommit({ ramp })}
      />
    );
  if (opened === "effect")
    return (
      <Choices
        names={effects.map((effect) => [effect.name, `${effect.name}: ${effect.says}`])}
        chosen={layer.effect}
        onChoose={(effect) => onCommit({ effect })}
      />
    );
  if (opened === "matrix")
    return (
      <Choices
        names={show.matrices.map((m) => [m.id, m.name])}
        chosen={layer.matrix}
        onChoose={(matrix) => onCommit({ matrix })}
      />
    );
  if (opened === "clip")
    return (
      <Choices
        names={show.clips.map((c) => [c.id, c.name])}
        chosen={layer.clip}
        onChoose={(clip) => onCommit({ clip })}
      />
    );
  if (opened === "opacity")
    return (
      <ValueSlider
        label="Opacity"
        value={layer.opacity * 100}
        minimum={0}
        maximum={100}
        unit="%"
        onMove={(value) => onMove({ opacity: value / 100 })}
        onCommit={(value) => onCommit({ opacity: value / 100 })}
      />
    );
  if (opened === "speed") return <SpeedControl layer={layer} onCommit={onCommit} />;
  const name = opened.replace("param ", "");
  const parameter = effects
    .find((one) => one.name === layer.effect)
    ?.parameters.find((one) => one.name === name);
  if (!parameter) return null;
  if (parameter.kind === "choice")
    return (
      <Choices
        names={parameter.choices.map((choice) => [choice, choice])}
        chosen={String(layer.params[name] ?? parameter.default)}
        onChoose={(choice) => onCommit({ params: { ...layer.params, [name]: choice } })}
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
      onMove={(value) => onMove({ params: { ...layer.params, [name]: value } })}
      onCommit={(value) => onCommit({ params: { ...layer.params, [name]: value } })}
    />
  );
}

function Choices({
  names,
  chosen,
  onChoose,
}: {
  names: [string, string][];
  chosen: string;
  onChoose: (key: string) => void;
}) {
  return (
    <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap" }}>
      {names.map(([key, text]) => (
        <Chip
          key={key}
          active={key === chosen}
          aria-pressed={key === chosen}
          onClick={() => key !== chosen && onChoose(key)}
        >
          {text}
        </Chip>
      ))}
    </Box>
  );
}

const SPEEDS = ["1 s", "2 s", "4 s", "8 s", "1 beat", "2 beats", "1 bar", "2 bars", "4 bars"];

function SpeedControl({ layer, onCommit }: { layer: Layer; onCommit: ControlProps["onCommit"] }) {
  const set = (text: string) => {
    const speed = readSpeed(text);
    if (!speed) return "Type seconds like 4 s, or beats like 8 beats or 2 bars.";
    return onCommit({ speed });
  };
  return (
    <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center" }}>
      <Cap>one round takes</Cap>
      <Typed numeric width={92} label="Speed" value={saySpeed(layer.speed)} onCommit={set} />
      {SPEEDS.map((text) => (
        <Chip key={text} active={saySpeed(layer.speed) === text} onClick={() => set(text)}>
          {text}
        </Chip>
      ))}
    </Box>
  );
}
