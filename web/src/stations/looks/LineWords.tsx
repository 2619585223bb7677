import { Box } from "@mui/material";
import { Fragment, type ReactNode } from "react";
import type { EffectView, LookView, WholeShow } from "../../api/client";
import { Chip, Num } from "../../components/atoms";
import { canvasOf } from "../../model/canvases";
import { type Line, rampCss, sayFitting, sayPart } from "../../model/lines";
import { saySpeed } from "../../model/values";
import { AttributeWords } from "./attributes/AttributeWords";
import { ORDER_SAYS } from "./ChaseControl";
import { Driven } from "./DrivenChip";
import { FeedState, LOST_SAYS } from "./FeedControl";
import { LineBounds } from "./LineBounds";
import type { Opened } from "./LineControl";
import { useParameters } from "./useParameters";

interface WordsProps {
  show: WholeShow;
  look: LookView;
  line: Line;
  effects: EffectView[];
  chosen: boolean;
  opened: Opened | null;
  onOpen: (what: Opened) => void;
}

const shortened = (text: string): string => (text.length > 28 ? `${text.slice(0, 27)}\u2026` : text);

/** A line in words that can be read aloud; each chip opens its control. */
export function LineWords(props: WordsProps) {
  const { show, line, effects, opened, onOpen } = props;
  const parameters = useParameters(line);
  const matrix = canvasOf(show, line);
  const saved = show.ramps.find((one) => one.id === line.saved_ramp);
  const chip = (what: Opened, text: ReactNode) => (
    <Chip active={opened === what} aria-expanded={opened === what} onClick={() => onOpen(what)}>
      {text}
    </Chip>
  );
  const alone = matrix?.emitter || line.emitter;
  const over = chip(
    "matrix",
    alone && !line.selection ? (
      <>
        {matrix?.name ?? "nothing"} : <b>{alone}</b>
      </>
    ) : (
      (matrix?.name ?? "nothing")
    ),
  );
  const ramp = () =>
    chip(
      "ramp",
      <>
        <Box
          component="span"
          sx={{ width: 44, height: 9, borderRadius: "4px", background: rampCss(line.ramp) }}
        />
        {saved?.name ?? (line.ramp.length === 1 ? "one colour" : `${line.ramp.length} colours`)}
        {line.drives.shift && (
          <Driven look={props.look.id} line={line} name="shift" times={100} unit=" %">
            {null}
          </Driven>
        )}
      </>,
    );
  const pace = () =>
    "speed" in line &&
    (line.drives.cycle ? (
      <Driven look={props.look.id} line={line} name="cycle" times={100} unit=" % of its cycle">
        {null}
      </Driven>
    ) : (
      <>
        <Num>{saySpeed(line.speed)}</Num>
        {line.drives.speed && (
          <>
            {" x "}
            <Driven look={props.look.id} line={line} name="speed">
              {null}
            </Driven>
          </>
        )}
      </>
    ));
  const params = (from: Record<string, unknown>, without?: string) =>
    parameters
      .filter((one) => one.name !== without)
      .map((parameter) => (
        <Fragment key={parameter.name}>
          {" "}
          <span style={{ whiteSpace: "nowrap" }}>
            {parameter.name}{" "}
            {chip(
              `param ${parameter.name}`,
              <Driven look={props.look.id} line={line} name={`params.${parameter.name}`}>
                {parameter.kind === "text" ? (
                  <q>{shortened(String(from[parameter.name] ?? parameter.default))}</q>
                ) : (
                  <Num>{String(from[parameter.name] ?? parameter.default)}</Num>
                )}
              </Driven>,
            )}
          </span>
        </Fragment>
      ));
  const backward = "speed" in line && line.speed.value < 0 && " backward";
  const bounds = <LineBounds {...props} />;
  if (line.paints === "clip") {
    const clip = show.clips.find((one) => one.id === line.clip);
    return (
      <>
        {chip("clip", <b>{clip?.name ?? "a clip that is gone"}</b>)} over {over}
        {clip?.kind !== "picture" && (
          <>
            {" "}
            at {chip("speed", pace())} {!line.drives.cycle && backward}{" "}
            {chip("part", <Num>{sayPart(line.fitting)}</Num>)}
          </>
        )}{" "}
        {chip("fitting", sayFitting(line.fitting))} {bounds}
      </>
    );
  }
  if (line.paints === "chase") {
    const chase = show.chases.find((one) => one.id === line.chase);
    return (
      <>
        {chip("chase", <b>{chase?.name ?? "a chase that is gone"}</b>)} over {over} at {chip("speed", pace())}{" "}
        {!line.drives.cycle && backward}{" "}
        {chip("order", `${ORDER_SAYS[line.order]}${line.rounds ? `, ${line.rounds} rounds` : ""}`)} {bounds}
      </>
    );
  }
  if (line.paints === "feed") {
    return (
      <>
        <b>Feed</b> {chip("feed", line.address)} over {over} {chip("fitting", sayFitting(line.fitting))} when
        lost {chip("lost", LOST_SAYS[line.lost])} {bounds}
        <FeedState address={line.address} />
      </>
    );
  }
  if (line.paints === "attributes")
    return <AttributeWords show={show} look={props.look} line={line} over={over} chip={chip} />;
  if (line.paints === "recolour") {
    const onto = String(line.params.onto ?? "ramp");
    return (
      <>
        <b>Recolour</b> {onto === "ramp" ? "its light onto" : "to"} {chip("param onto", onto)}{" "}
        {onto === "ramp" && ramp()} over {over}
        {params(line.params, "onto")} {bounds}
      </>
    );
  }
  const effect = effects.find((one) => one.name === line.effect);
  return (
    <>
      {chip("effect", <b>{line.effect}</b>)} in {ramp()} over {over}
      {effect?.moves && (
        <>
          {" "}
          {line.drives.cycle ? "at " : "every "}
          {chip("speed", pace())}
          {!line.drives.cycle && backward}
        </>
      )}
      {params(line.params)} {bounds}
    </>
  );
}
