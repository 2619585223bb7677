import { Button } from "@mui/material";
import { client, type FixtureView, type Schemas } from "../../api/client";
import { doing, stop, useWalk } from "../check/walk/useWalk";

const LETTERS_MOST = 500;

/** "401-414, 501": numbers as they are typed, those that follow each other in the rig as a range. */
function typed(chosen: FixtureView[], all: FixtureView[]): string {
  const picked = new Set(chosen.map((one) => one.id));
  const runs: [number, number][] = [];
  let before = false;
  for (const one of [...all].sort((a, b) => a.number - b.number)) {
    const is = picked.has(one.id);
    const last = runs.at(-1);
    if (is && before && last) last[1] = one.number;
    else if (is) runs.push([one.number, one.number]);
    before = is;
  }
  return runs.map(([low, high]) => (low === high ? String(low) : `${low}-${high}`)).join(", ");
}

/** Lights the chosen alone, everything else dark, until it is pressed again: nobody has to stand at the key. */
export function KeepLit({ chosen, all }: { chosen: FixtureView[]; all: FixtureView[] }) {
  const walk = useWalk();
  const selection = typed(chosen, all);
  const body = { by: "all", selection, emitter: "", level: 1, alone: true, seconds: 0 };
  const lit = walk?.running === true && walk.by === "all";
  return (
    <Button
      aria-pressed={lit}
      color={lit ? "primary" : "inherit"}
      disabled={!lit && selection.length > LETTERS_MOST}
      title={
        lit ? "Gives the lamps back" : "Lights these alone, everything else dark, until it is pressed again"
      }
      onClick={() =>
        void (lit ? stop() : doing(client.POST("/api/walk", { body: body as Schemas["WalkStart"] })))
      }
    >
      {lit ? "End" : "Keep lit"}
    </Button>
  );
}
