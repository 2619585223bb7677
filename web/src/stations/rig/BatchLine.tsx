import { Box } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { answer, client, type FixtureView, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, FaultNote } from "../../components/atoms";
import { TypedLine } from "../../components/TypedLine";
import { say } from "../../stores/notices";
import { chooseFixtures } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { ChangeList } from "./ChangeList";

export type BatchKind = Schemas["BatchBegin"]["kind"];

const WORDS: Record<BatchKind, { title: string; hint: string; done: string }> = {
  number: { title: "Renumber", hint: "first number, or 401 every 2nd", done: "renumbered" },
  name: {
    title: "Rename",
    hint: "Tower {n}; {number} and {name} stand for what it has now",
    done: "renamed",
  },
  mode: { title: "Change mode", hint: "a profile, mode", done: "changed" },
  copy: { title: "Copy", hint: "how many times, from number, name pattern", done: "copied" },
};

interface BatchProps {
  kind: BatchKind;
  show: WholeShow;
  chosen: FixtureView[];
  onDone: () => void;
}

/** One thing done to all chosen fixtures: every fixture before and after is listed before it is done. */
export function BatchLine({ kind, show, chosen, onDone }: BatchProps) {
  const [text, setText] = useState("");
  const [plan, setPlan] = useState<Schemas["ChangePlan"] | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const asked = useRef(0);
  const edit = useEdit();
  const ids = chosen.map((one) => one.id);
  const change = { do: "typed" as const, kind, text };

  // biome-ignore lint/correctness/useExhaustiveDependencies: the line is begun once
  useEffect(() => {
    field.current?.focus();
    void answer(client.POST("/api/fixtures/batch/begin", { body: { ids, kind } })).then((begun) => {
      setText((typed) => typed || begun.text);
      requestAnimationFrame(() => field.current?.select());
    });
  }, []);

  // biome-ignore lint/correctness/useExhaustiveDependencies: another selection or revision makes another plan
  useEffect(() => {
    const turn = ++asked.current;
    if (!text) return setPlan(null);
    const timer = setTimeout(async () => {
      const found = await answer(client.POST("/api/fixtures/batch/plan", { body: { ids, change } })).catch(
        () => null,
      );
      if (turn === asked.current) setPlan(found);
    }, 120);
    return () => clearTimeout(timer);
  }, [text, kind, ids.join(), show.show.revision]);

  const apply = async () => {
    if (!plan || plan.problem) return;
    const new_ids = kind === "copy" ? plan.fixtures.map(newId) : [];
    const body = { ids, change: { ...change, new_ids } };
    const done = await edit(() => answer(client.POST("/api/fixtures/batch", { body })));
    if (!done) return;
    if (kind === "copy") chooseFixtures(new_ids);
    say(`${ids.length} ${ids.length === 1 ? "fixture" : "fixtures"} ${WORDS[kind].done}`);
    onDone();
  };
  const wrong = plan?.problem;
  return (
    <Box sx={{ borderTop: `1px solid ${ink.brassSoft}`, background: ink.panel, px: 2, py: 1.25 }}>
      <TypedLine
        id="batch-line"
        label={`${WORDS[kind].title} ${ids.length}`}
        does={WORDS[kind].title}
        field={field}
        list={kind === "mode" ? "batch-modes" : undefined}
        value={text}
        disabled={Boolean(wrong) || !plan}
        onChange={setText}
        onSubmit={apply}
        onCancel={onDone}
      />
      {kind === "mode" && (
        <datalist id="batch-modes">
          {show.profiles.flatMap((profile) =>
            profile.modes.map((mode) => (
              <option key={`${profile.id} ${mode.name}`} value={`${profile.name}, ${mode.name}`} />
            )),
          )}
        </datalist>
      )}
      {wrong ? (
        <FaultNote what={wrong} repair={typeof change === "string" ? "" : plan?.repair} />
      ) : (
        <Cap sx={{ mt: 0.5 }}>{WORDS[kind].hint}</Cap>
      )}
      {plan && !wrong && <ChangeList fixtures={plan.fixtures} copies={kind === "copy"} />}
    </Box>
  );
}
