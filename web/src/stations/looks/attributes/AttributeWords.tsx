import { Fragment, type ReactNode } from "react";
import type { LookView, WholeShow } from "../../../api/client";
import { FaultNote, Num } from "../../../components/atoms";
import type { AttributeLine } from "../../../model/lines";
import { Driven } from "../DrivenChip";
import type { Opened } from "../LineControl";
import { useAttributes } from "./useAttributes";

interface WordsProps {
  show: WholeShow;
  look: LookView;
  line: AttributeLine;
  over: ReactNode;
  chip: (what: Opened, text: ReactNode) => ReactNode;
}

/** What a line sets, in words: its presets, then each attribute with what was typed or moves it. */
export function AttributeWords({ show, look, line, over, chip }: WordsProps) {
  const { attributes, missing, said } = useAttributes(look, line);
  const presets = line.presets.map((id) => show.presets.find((one) => one.id === id));
  const kept = Object.keys(line.kept).length;
  const set = attributes.filter(
    (one) => one.attribute in line.params || `params.${one.attribute}` in line.drives,
  );
  const gone = Object.keys(line.params).filter((name) => !attributes.some((one) => one.attribute === name));
  return (
    <>
      <b>Attributes</b> {over}
      {presets.map((one, n) => (
        <Fragment key={one?.id ?? n}>
          {" "}
          at {one?.kind ?? "preset"} {chip("sets", <b>{one?.name ?? "gone"}</b>)}
        </Fragment>
      ))}
      {kept > 0 && <> as {chip("sets", `kept of ${kept} ${kept > 1 ? "fixtures" : "fixture"}`)}</>}
      {set.map(({ attribute, word, unit }) => (
        <Fragment key={attribute}>
          {" "}
          <span style={{ whiteSpace: "nowrap" }}>
            {word}{" "}
            {chip(
              `set ${attribute}`,
              <>
                {line.params[attribute] && <Num>{line.params[attribute]}</Num>}
                {line.drives[`params.${attribute}`] && (
                  <Driven
                    look={look.id}
                    line={line}
                    name={`params.${attribute}`}
                    unit={unit === "%" ? " %" : unit}
                  >
                    {null}
                  </Driven>
                )}
              </>,
            )}
          </span>
        </Fragment>
      ))}{" "}
      {chip("sets", presets.length + set.length + kept ? "set more" : "choose what it sets")}
      {[...gone, ...Object.keys(missing)]
        .filter((name, n, all) => all.indexOf(name) === n)
        .map((name) => (
          <FaultNote key={name} what={missing[name] ?? `Nothing here has ${name} any more.`} />
        ))}
      {said && <FaultNote what={said} />}
    </>
  );
}
