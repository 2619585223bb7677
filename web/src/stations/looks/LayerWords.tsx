import { Box } from "@mui/material";
import { Fragment, type ReactNode } from "react";
import type { EffectView, WholeShow } from "../../api/client";
import { Chip, Num } from "../../components/atoms";
import { AS_IT_IS, type Layer, rampCss, sayFitting, sayPart } from "../../model/layers";
import { saySpeed } from "../../model/values";
import type { Opened } from "./LayerControl";

interface WordsProps {
  show: WholeShow;
  layer: Layer;
  effects: EffectView[];
  opened: Opened | null;
  onOpen: (what: Opened) => void;
  onTurn: () => void;
}

/** A layer in words that can be read aloud; each chip opens its control. */
export function LayerWords({ show, layer, effects, opened, onOpen, onTurn }: WordsProps) {
  const effect = effects.find((one) => one.name === layer.effect);
  const matrix = show.matrices.find((m) => m.id === layer.matrix);
  const clip = show.clips.find((one) => one.id === layer.clip);
  const saved = show.ramps.find((one) => one.id === layer.saved_ramp);
  const fitting = layer.fitting ?? AS_IT_IS;
  const chip = (what: Opened, text: ReactNode) => (
    <Chip active={opened === what} aria-expanded={opened === what} onClick={() => onOpen(what)}>
      {text}
    </Chip>
  );
  const direction = <Chip onClick={onTurn}>{layer.direction}</Chip>;
  const over = chip("matrix", matrix?.name ?? "no matrix");
  if (layer.paints === "clip")
    return (
      <>
        {chip("clip", <b>{clip?.name ?? "a clip that is gone"}</b>)} over {over}
        {clip?.kind !== "picture" && (
          <>
            {" "}
            at {chip("speed", <Num>{saySpeed(layer.speed)}</Num>)} {direction}{" "}
            {chip("part", <Num>{sayPart(fitting)}</Num>)}
          </>
        )}{" "}
        {chip("fitting", sayFitting(fitting))}
      </>
    );
  return (
    <>
      {chip("effect", <b>{layer.effect}</b>)} in{" "}
      {chip(
        "ramp",
        <>
          <Box
            component="span"
            sx={{ width: 44, height: 9, borderRadius: "4px", background: rampCss(layer.ramp) }}
          />
          {saved?.name ?? (layer.ramp.length === 1 ? "one colour" : `${layer.ramp.length} colours`)}
        </>,
      )}{" "}
      over {over}
      {effect?.moves && (
        <>
          {" "}
          every {chip("speed", <Num>{saySpeed(layer.speed)}</Num>)} {direction}
        </>
      )}
      {effect?.parameters.map((parameter) => (
        <Fragment key={parameter.name}>
          {" "}
          <span style={{ whiteSpace: "nowrap" }}>
            {parameter.name}{" "}
            {chip(
              `param ${parameter.name}`,
              <Num>{String(layer.params[parameter.name] ?? parameter.default)}</Num>,
            )}
          </span>
        </Fragment>
      ))}
    </>
  );
}
