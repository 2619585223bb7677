import { Box } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { answer, client, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, Chip, FaultNote, Num } from "../../components/atoms";
import { TypedLine } from "../../components/TypedLine";
import { useComing } from "../../stores/coming";
import { say } from "../../stores/notices";
import { chooseFixtures } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { AddRulers } from "./AddRulers";

/** The typed line: it ends with its own reading, and lists what it would make before it is made. */
export function AddLine({ show }: { show: WholeShow }) {
  const [text, setText] = useState("");
  const [plan, setPlan] = useState<Schemas["AddPlan"] | null>(null);
  const [busy, setBusy] = useState(false);
  const asked = useRef(0);
  /** The revision and the line that the plan is of. */
  const plannedFor = useRef("");
  const field = useRef<HTMLInputElement>(null);
  const edit = useEdit();
  const hangsOn = useComing((coming) => coming.plan);

  useEffect(() => {
    const turn = ++asked.current;
    const timer = setTimeout(async () => {
      try {
        const body = { text, ...(hangsOn ? { plan: hangsOn } : {}) };
        const read = await answer(client.POST("/api/fixtures/plan", { body }));
        if (turn !== asked.current) return;
        useComing.setState({ items: read.hang });
        plannedFor.current = `${show.show.revision} ${text}`;
        setPlan(read);
      } catch {
        if (turn !== asked.current) return;
        setPlan(null);
        useComing.setState({ items: [] });
      }
    }, 120);
    return () => clearTimeout(timer);
  }, [text, show.show.revision, hangsOn]);
  useEffect(() => () => useComing.setState({ items: [] }), []);

  const add = async () => {
    if (busy || !text.trim()) return;
    setBusy(true);
    const asks = () => answer(client.POST("/api/fixtures/plan", { body: { text } })).catch(() => null);
    const fresh = plannedFor.current === `${show.show.revision} ${text}`;
    const read = fresh ? plan : await asks();
    if (read && !read.problem) {
      const ids = Array.from({ length: read.count }, newId);
      const done = await edit(() =>
        answer(client.POST("/api/fixtures", { body: { text, ids, ...(hangsOn ? { plan: hangsOn } : {}) } })),
      );
      if (done) {
        setText("");
        chooseFixtures(ids);
        say(`${read.count} ${read.count === 1 ? "fixture" : "fixtures"} added, ${read.cells} cells`);
      }
    } else setPlan(read);
    setBusy(false);
  };

  const good = plan !== null && plan.count > 0 && !plan.problem;
  return (
    <Box
      sx={{
        borderTop: `1px solid ${text ? ink.brassSoft : ink.hair}`,
        background: ink.panel,
        px: 2,
        py: 1.25,
      }}
    >
      <TypedLine
        id="add-line"
        label="Add"
        does={good ? `Add ${plan.count}` : "Add"}
        field={field}
        placeholder="21 x RGB lamp, from 201, Lamp {n}"
        value={text}
        disabled={!text.trim() || busy || Boolean(plan?.problem)}
        onChange={setText}
        onSubmit={add}
        onCancel={text ? () => setText("") : undefined}
      >
        {good && (
          <Cap>
            <Num>{plan.cells}</Num> cells, <Num>{plan.channels}</Num> ch
          </Cap>
        )}
      </TypedLine>
      {plan?.problem && <FaultNote what={plan.problem} repair={plan.repair} />}
      {good && plan.rulers.length > 0 && <AddRulers rulers={plan.rulers} />}
      {good && <Assured says={plan.says} />}
      {good && <PlanList plan={plan} />}
      <Suggestions
        text={text}
        plan={plan}
        onTake={async (one) => {
          if (one.makes) {
            const body = { id: newId(), text };
            if (!(await edit(() => answer(client.POST("/api/fixtures/profile", { body }))))) return;
          }
          setText(one.text);
          field.current?.focus();
        }}
      />
    </Box>
  );
}

interface SuggestionsProps {
  text: string;
  plan: Schemas["AddPlan"] | null;
  onTake: (suggestion: Schemas["SuggestionView"]) => void;
}

/** What may stand next, as chips; and how the line is made up while it is empty. */
function Suggestions({ text, plan, onTake }: SuggestionsProps) {
  if (!plan?.suggests.length) return null;
  return (
    <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center", mt: 1 }}>
      <Cap>{text ? `${plan.suggested}:` : "count x profile, mode, from number, name {n}, at address:"}</Cap>
      {plan.suggests.map((one) => (
        <Chip key={one.label} onClick={() => onTake(one)}>
          {one.label}
        </Chip>
      ))}
    </Box>
  );
}

/** What was looked at, and holds. */
function Assured({ says }: { says: string[] }) {
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 3, mt: 0.5 }}>
      {says.map((one) => (
        <Cap key={one} sx={{ lineHeight: "23px", display: "flex", gap: 0.75, alignItems: "center" }}>
          <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
            <path d="M2 6.5 5 9.5 10 3" fill="none" stroke={ink.sea} strokeWidth="1.6" />
          </svg>
          {one}
        </Cap>
      ))}
    </Box>
  );
}

/** Every fixture that would be made, dashed as it does not exist yet. */
function PlanList({ plan }: { plan: Schemas["AddPlan"] }) {
  return (
    <Box
      aria-label="What would be added"
      sx={{
        mt: 0.25,
        maxHeight: 148,
        overflowY: "auto",
        display: "grid",
        gridTemplateColumns: "repeat(auto-fill, minmax(285px, 1fr))",
        columnGap: 3,
      }}
    >
      {plan.fixtures.map((one) => (
        <Box
          key={one.number}
          sx={{
            display: "grid",
            gridTemplateColumns: "46px 1fr auto",
            gap: 1,
            lineHeight: "23px",
            contentVisibility: "auto",
            containIntrinsicSize: "auto 24px",
            borderBottom: `1px dashed ${ink.hair2}`,
            whiteSpace: "nowrap",
            fontSize: 13,
          }}
        >
          <Num>{one.number}</Num>
          <Box sx={{ overflow: "hidden", textOverflow: "ellipsis" }}>{one.name}</Box>
          <Box
            sx={{ fontFamily: mono, fontSize: 12.5, color: one.note ? ink.brass : ink.soft }}
            title={one.note}
          >
            {one.address ? `${one.address} to ${one.end}` : "no address"}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
