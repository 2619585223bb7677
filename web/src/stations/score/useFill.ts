import { useCallback, useEffect, useRef, useState } from "react";
import { isFault } from "../../api/client";
import type { Score } from "../../model/staff";
import type { FillAsked, FillView, ScoreEdits } from "./useScore";

export interface Fill {
  asked: FillAsked;
  /** What would be written; null while nothing is offered. */
  found: FillView | null;
  wrong: string;
  change: (fields: Partial<FillAsked>) => void;
  /** Offers entries for what is asked. */
  offer: () => void;
  anew: () => void;
  keep: () => Promise<void>;
  drop: () => void;
}

const AGAIN_MS = 900;
const AHEAD_MS = 2_000;
const AHEAD_TURNS = 90;
const SEEDS = 10_000;

/** What Fill offers, asked again until it is known of every look whether it flashes; nothing is stored before Keep. */
export function useFill(score: Score, edits: ScoreEdits): Fill {
  const [asked, setAsked] = useState<FillAsked>(() => ({
    staves: score.staves.map((one) => one.id),
    first: 1,
    last: Math.min(8, score.bars),
    mood: "rising",
    seed: 4108,
    colours: [],
    positions: [],
    lasers: [],
    keep: false,
  }));
  const [on, setOn] = useState(false);
  const [found, setFound] = useState<FillView | null>(null);
  const [wrong, setWrong] = useState("");
  const latest = useRef(0);
  useEffect(() => {
    if (!on) return;
    const turn = ++latest.current;
    let timer = 0;
    const ask = async () => {
      try {
        const answered = await edits.fill(asked);
        if (turn !== latest.current) return;
        setFound(answered);
        setWrong("");
        if (answered.waiting.length) timer = window.setTimeout(() => void ask(), AGAIN_MS);
      } catch (fault) {
        if (turn !== latest.current) return;
        setFound(null);
        setWrong(isFault(fault) ? `${fault.what} ${fault.repair}` : "Fill does not answer.");
      }
    };
    void ask();
    return () => window.clearTimeout(timer);
  }, [on, asked, edits]);
  // Whether looks flash is looked at beforehand: it takes some seconds for each.
  const first = useRef(asked);
  useEffect(() => {
    let over = false;
    const look = async () => {
      for (let turn = 0; turn < AHEAD_TURNS && !over; turn++) {
        const found = await edits.fill(first.current).catch(() => null);
        if (!found?.waiting.length) return;
        await new Promise((done) => setTimeout(done, AHEAD_MS));
      }
    };
    if (first.current.staves.length) void look();
    return () => {
      over = true;
    };
  }, [edits]);
  const drop = useCallback(() => {
    latest.current += 1;
    setOn(false);
    setFound(null);
    setWrong("");
  }, []);
  return {
    asked,
    found: on ? found : null,
    wrong,
    change: (fields) => setAsked((before) => ({ ...before, ...fields })),
    offer: () => setOn(true),
    anew: () => setAsked((before) => ({ ...before, seed: Math.floor(Math.random() * SEEDS) })),
    keep: async () => {
      const problem = await edits.keep(asked);
      if (problem) setWrong(problem);
      else drop();
    },
    drop,
  };
}
