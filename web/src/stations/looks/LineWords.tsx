import { Box } from "@mui/material";
import { Fragment, type ReactNode } from "react";
import type { EffectView, WholeShow } from "../../api/client";
import { Chip, Num } from "../../components/atoms";
import { AS_IT_IS, type Line, rampCss, sayFitting, sayPart } from "../../model/lines";
import { saySpeed } from "../../model/values";
import type { Opened } from "./LineControl";

interface WordsProps {
  show: WholeShow;
  line: Line;
  effects: EffectView[];
  opened: Opened | null;
  onOpen: (what: Opened) => void;
}

/** A line in words that can be read aloud; each chip opens its control. */
export function LineWords({ show, line, effects, opened, onOpen }: WordsProps) {
  const effect = effects.find((one) => one.name === line.effect);
  const matrix = show.matrices.find((m) => m.id === line.matrix);
  const clip = show.clips.find((one) => one.id === line.clip);
  const saved = show.ramps.find((one) => one.id === line.saved_ramp);
  const fitting = line.fitting ?? AS_IT_IS;
  const chip = (what: Opened, text: ReactNode) => (
    <Chip active={opened === what} aria-expanded={opened === what} onClick={() => onOpen(what)}>
      {text}
    </Chip>
  );
  const backward = line.speed.value < 0 && " backward";
  const over = chip("matrix", matrix?.name ?? "no matrix");
  if (line.paints === "clip")
    return (
      <>
        {chip("clip", <b>{clip?.name ?? "a clip that is gone"}</b>)} over {over}
        {clip?.kind !== "picture" && (
          <>
            {" "}
            at {chip("speed", <Num>{saySpeed(line.speed)}</Num>)} {backward}{" "}
            {chip("part", <Num>{sayPart(fitting)}</Num>)}
          </>
        )}{" "}
        {chip("fitting", sayFitting(fitting))}
      </>
    );
  return (
    <>
      {chip("effect", <b>{line.effect}</b>)} in{" "}
      {chip(
        "ramp",
        <>
          <Box
            component="span"
            sx={{ width: 44, height: 9, borderRadius: "4px", background: rampCss(line.ramp) }}
          />
          {saved?.name ?? (line.ramp.length === 1 ? "one colour" : `${line.ramp.length} colours`)}
        </>,
      )}{" "}
      over {over}
      {effect?.moves && (
        <>
          {" "}
          every {chip("speed", <Num>{saySpeed(line.speed)}</Num>)}
          {backward}
        </>
      )}
      {effect?.parameters.map((parameter) => (
        <Fragment key={parameter.name}>
          {" "}
          <span style={{ whiteSpace: "nowrap" }}>
            {parameter.name}{" "}
            {chip(
              `param ${parameter.name}`,
              <Num>{String(line.params[parameter.name] ?? parameter.default)}</Num>,
            )}
          </span>
        </Fragment>
      ))}
    </>
  );
}
