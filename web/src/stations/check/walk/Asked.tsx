import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { WholeShow } from "../../../api/client";
import { Cap, Chip, FaultNote } from "../../../components/atoms";
import { Field } from "../../../components/Field";
import { emitterWord, SEEN, type WalkView, writtenOf } from "../../../model/walks";
import { readCell } from "../../../model/why";
import { ink } from "../../../theme/tokens";
import { answerColour, cancelAsk, mark, useAsking } from "./useWalk";

/** What is asked after a mark: where it really lit, or what it shows while one emitter is lit. */
export function Asked({ show, walk, large }: { show: WholeShow; walk: WalkView; large?: boolean }) {
  const ask = useAsking((asking) => asking.ask);
  if (!ask) return null;
  const of = writtenOf({ fixture: ask.of[0], cell: ask.of[1] }, show.fixtures);
  return (
    <Box role="group" aria-label="Asked" sx={{ mt: 1, pt: 1, borderTop: `1px solid ${ink.brassSoft}` }}>
      {ask.what === "place" ? (
        <Place show={show} walk={walk} of={of} />
      ) : (
        <Colour
          key={ask.at}
          walk={walk}
          of={of}
          lit={ask.emitters[ask.at] ?? ""}
          emitters={ask.emitters}
          large={large}
        />
      )}
    </Box>
  );
}

function Place({ show, walk, of }: { show: WholeShow; walk: WalkView; of: string }) {
  const ask = useAsking((asking) => asking.ask);
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const say = async () => {
    const cell = readCell(text, show.fixtures);
    if (!cell) return setWrong(`There is no cell '${text}'. Write 101:5.`);
    await mark(walk, "wrong place", {
      of: ask?.of,
      seen: { fixture: cell.fixture.id, cell: ask?.of[1] ? cell.cell : 0 },
    });
  };
  return (
    <>
      <Box sx={{ fontSize: 14, lineHeight: "19px" }}>
        Where did {of} light? Click it in the picture, or type it.
      </Box>
      <Box
        component="form"
        sx={{ display: "flex", gap: 0.75, mt: 0.75, flexWrap: "wrap" }}
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          void say();
        }}
      >
        <Field width={84} label="Where it lit" placeholder="104:1" value={text} onChange={setText} />
        <Button type="submit" disabled={!text.trim()}>
          There
        </Button>
        <Button variant="text" onClick={() => void mark(walk, "wrong place", { of: ask?.of })}>
          Nobody knows
        </Button>
        <Button variant="text" onClick={() => void cancelAsk()}>
          Cancel
        </Button>
      </Box>
      {wrong && <FaultNote what={wrong} />}
    </>
  );
}

interface ColourProps {
  walk: WalkView;
  of: string;
  lit: string;
  /** All of the lamp's. */
  emitters: string[];
  large?: boolean;
}

/** Colours that any lamp may show; rarer ones only where the lamp has them. */
const COMMON = 5;

function Colour({ walk, of, lit, emitters, large }: ColourProps) {
  const [seen, setSeen] = useState<string[]>([]);
  const toggle = (key: string) =>
    setSeen((before) => (before.includes(key) ? before.filter((one) => one !== key) : [...before, key]));
  const style = large ? { height: 44, fontSize: 16, borderRadius: 22, padding: "0 16px" } : undefined;
  return (
    <>
      <Box sx={{ fontSize: large ? 17 : 14, lineHeight: large ? "23px" : "19px" }}>
        {of} is lit in <b>{emitterWord(lit)}</b>. What does it show?
      </Box>
      <Box sx={{ display: "flex", gap: 0.75, mt: 0.75, flexWrap: "wrap" }}>
        {SEEN.filter(([key], place) => place < COMMON || emitters.includes(key)).map(([key, word]) => (
          <Chip
            key={key}
            active={seen.includes(key)}
            aria-pressed={seen.includes(key)}
            style={style}
            onClick={() => toggle(key)}
          >
            {word}
          </Chip>
        ))}
      </Box>
      <Box
        sx={{ display: "flex", gap: 0.75, mt: 0.75, "& button": large ? { height: 48, fontSize: 16 } : {} }}
      >
        <Button color="primary" onClick={() => void answerColour(walk, seen)}>
          {seen.length ? `It shows ${seen.map(emitterWord).join(" and ")}` : "It shows nothing"}
        </Button>
        <Button variant="text" onClick={() => void cancelAsk()}>
          Cancel
        </Button>
      </Box>
      <Cap sx={{ mt: 0.5 }}>A mixture is several of them: yellow is red and green.</Cap>
    </>
  );
}
