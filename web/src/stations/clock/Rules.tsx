import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, Chip, Empty, FaultNote, Scroll } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { ink } from "../../theme/tokens";
import type { ClockEdits, Rule } from "./useClock";

const COLUMNS = "44px minmax(120px,0.8fr) minmax(190px,1.4fr) minmax(190px,1.4fr) 124px";
const TIMES = ["at 16:30", "dusk", "10 min before dusk", "dawn", "every 20 min from 17:00 to 23:00"];

interface RulesProps {
  show: WholeShow;
  rules: Rule[];
  edits: ClockEdits;
}

/** Every rule as it is typed, edited where it stands; beneath them a new one is typed. */
export function Rules({ show, rules, edits }: RulesProps) {
  const [wrong, setWrong] = useState("");
  const [when, setWhen] = useState("");
  const [does, setDoes] = useState("");
  const actions = [
    ...show.cue_lists.flatMap((one) => [`${one.name}: go`, `${one.name}: release`]),
    ...show.scores.flatMap((one) => [`${one.name}: start`, `${one.name}: release`]),
    "Blackout on",
    "Blackout off",
  ];
  const add = async () => {
    const problem = await edits.add(when, does);
    setWrong(problem);
    if (!problem) {
      setWhen("");
      setDoes("");
    }
  };
  return (
    <>
      <Scroll role={rules.length ? "table" : "group"} aria-label="Rules of the clock" tabIndex={0}>
        {rules.length > 0 && (
          <Box
            role="row"
            sx={{
              display: "grid",
              gridTemplateColumns: COLUMNS,
              gap: 1,
              px: 2,
              py: 0.75,
              fontSize: 12,
              color: ink.soft,
              borderBottom: `1px solid ${ink.hair}`,
            }}
          >
            {["On", "Name", "When", "Does", ""].map((head) => (
              <span key={head} role="columnheader">
                {head || <span style={{ opacity: 0 }}>Try</span>}
              </span>
            ))}
          </Box>
        )}
        {rules.map((one) => (
          <Box
            key={one.id}
            role="row"
            sx={{
              display: "grid",
              gridTemplateColumns: COLUMNS,
              gap: 1,
              alignItems: "center",
              px: 2,
              py: 0.5,
              opacity: one.on ? 1 : 0.6,
              "&:hover": { background: ink.row },
            }}
          >
            <span role="cell">
              <input
                type="checkbox"
                aria-label={`${one.name || one.when}: is done`}
                checked={one.on}
                onChange={() => void edits.change(one.id, { on: !one.on })}
                style={{ accentColor: "var(--brass)" }}
              />
            </span>
            <span role="cell">
              <Typed
                quiet
                label={`Name of the rule ${one.when}`}
                placeholder="no name"
                value={one.name}
                onCommit={(name) => edits.change(one.id, { name })}
              />
            </span>
            <span role="cell">
              <Typed
                quiet
                label={`When, of ${one.name || one.does}`}
                value={one.when}
                onCommit={(text) => edits.change(one.id, { when: text })}
              />
            </span>
            <Box role="cell" sx={one.gone.length ? { "& input": { color: ink.coral } } : {}}>
              <Typed
                quiet
                label={`What ${one.name || one.when} does`}
                value={one.does}
                onCommit={(text) => edits.change(one.id, { does: text })}
              />
              {one.gone.length > 0 && (
                <Box sx={{ px: 0.75, fontSize: 12.5, color: ink.coral }}>
                  {one.gone.join(" and ")} {one.gone.length > 1 ? "are" : "is"} gone: type something else, or
                  undo.
                </Box>
              )}
            </Box>
            <span role="cell" style={{ display: "flex", justifyContent: "flex-end" }}>
              <Button
                variant="text"
                disabled={one.gone.length > 0}
                title="Does it now"
                sx={{ minWidth: 0 }}
                onClick={() => void edits.attempt(one.id).then(setWrong)}
              >
                Try
              </Button>
              <Button
                variant="text"
                aria-label={`Delete the rule ${one.name || one.when}`}
                sx={{ minWidth: 0, color: ink.soft }}
                onClick={() => void edits.drop(one.id)}
              >
                Delete
              </Button>
            </span>
          </Box>
        ))}
        {!rules.length && (
          <Empty title="Nothing starts by itself yet">
            A rule says when and what: at dusk the list goes, at 23:00 it lets go. It is done whether anybody
            is here or not, and after a power cut what should be running runs.
          </Empty>
        )}
      </Scroll>
      <Box
        component="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          void add();
        }}
        sx={{ borderTop: `1px solid ${ink.hair}`, px: 2, py: 1.25 }}
      >
        <Box sx={{ display: "flex", gap: 1.25, alignItems: "center" }}>
          <b style={{ fontWeight: 600, whiteSpace: "nowrap" }}>New rule</b>
          <Field label="When" value={when} placeholder="10 min before dusk on Mon-Fri" onChange={setWhen} />
          <Field label="Does" value={does} placeholder={actions[0] ?? "Blackout off"} onChange={setDoes} />
          <Button type="submit" color="primary" variant="outlined" disabled={!when || !does}>
            Add
          </Button>
        </Box>
        {wrong && <FaultNote what={wrong} />}
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, mt: 1, alignItems: "center" }}>
          <Cap sx={{ mr: 0.5 }}>when</Cap>
          {TIMES.map((one) => (
            <Chip key={one} active={when === one} onClick={() => setWhen(one)} type="button">
              {one}
            </Chip>
          ))}
        </Box>
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, mt: 0.75, alignItems: "center" }}>
          <Cap sx={{ mr: 0.5 }}>does</Cap>
          {actions.slice(0, MOST).map((one) => (
            <Chip key={one} active={does === one} onClick={() => setDoes(one)} type="button">
              {one}
            </Chip>
          ))}
        </Box>
      </Box>
    </>
  );
}

const MOST = 8;

interface FieldProps {
  label: string;
  value: string;
  placeholder: string;
  onChange: (text: string) => void;
}

function Field({ label, value, placeholder, onChange }: FieldProps) {
  return (
    <Box
      component="input"
      aria-label={label}
      autoComplete="off"
      spellCheck={false}
      placeholder={placeholder}
      value={value}
      onChange={(event: React.ChangeEvent<HTMLInputElement>) => onChange(event.target.value)}
      sx={{
        flex: 1,
        minWidth: 0,
        height: 34,
        px: 1.25,
        font: "inherit",
        color: ink.text,
        background: ink.ground,
        border: `1px solid ${value ? ink.brass : ink.hair2}`,
        borderRadius: "4px",
        "&::placeholder": { color: ink.faint },
      }}
    />
  );
}
