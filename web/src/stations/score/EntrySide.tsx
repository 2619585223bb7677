import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, Chip, FaultNote, Part } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import type { Entry, Score } from "../../model/staff";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import type { EntryFields, ScoreEdits } from "./useScore";

interface SideProps {
  show: WholeShow;
  score: Score;
  entries: Entry[];
  edits: ScoreEdits;
}

/** What is chosen, by typing; nothing chosen: the next entry is written. */
export function EntrySide({ show, score, entries, edits }: SideProps) {
  return entries.length ? (
    <Chosen show={show} score={score} entries={entries} edits={edits} />
  ) : (
    <Write show={show} score={score} edits={edits} />
  );
}

const BARS = 2;

function Write({ show, score, edits }: Omit<SideProps, "entries">) {
  const wanted = useView((view) => view.stave);
  const place = useView((view) => view.place);
  const stave = score.staves.find((one) => one.id === wanted) ?? score.staves[0];
  const position = useView((view) => view.entries)[0];
  const mark = score.positions.find((one) => one.id === position);
  const [wrong, setWrong] = useState("");
  if (!stave) return null;
  if (mark)
    return (
      <Part sx={{ borderTop: 0 }} role="group" aria-label="Chosen position">
        <b style={{ fontWeight: 600 }}>
          at {mark.name} from {mark.begins}
        </b>
        <Box sx={{ mt: 1 }}>
          <Button onClick={() => void edits.drop([mark.id])}>Delete</Button>
        </Box>
      </Part>
    );
  const looks = show.looks.filter((one) => stave.looks.includes(one.id));
  const positions = show.presets.filter((one) => one.kind === "position");
  const write = async (name: string) =>
    setWrong(await edits.write(stave.id, `${name} at ${place} for ${BARS} bars`));
  return (
    <Part sx={{ borderTop: 0 }} role="group" aria-label="Write an entry">
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1, mb: 1 }}>
        <b style={{ fontWeight: 600, fontSize: 15 }}>{stave.name}</b>
        <Cap sx={{ ml: "auto" }}>from {place}; click a bar for another place</Cap>
      </Box>
      <Typed
        label={`Entry on ${stave.name}`}
        placeholder={`${looks[0]?.name ?? "white"} 80 % at ${place} for 2 bars`}
        value=""
        onCommit={(text) => edits.write(stave.id, text)}
      />
      <Cap sx={{ mt: 1.25, mb: 0.75 }}>or choose what plays for {BARS} bars from there</Cap>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75 }}>
        {looks.map((one) => (
          <Chip key={one.id} onClick={() => void write(one.name)}>
            {one.name}
          </Chip>
        ))}
        <Chip onClick={() => void write("white")}>white</Chip>
        <Chip
          title="White, for half a beat"
          onClick={() => void edits.accent(stave.id, place).then(setWrong)}
        >
          accent
        </Chip>
      </Box>
      {positions.length > 0 && (
        <>
          <Cap sx={{ mt: 1.25, mb: 0.75 }}>or a position its heads stand in from there</Cap>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75 }}>
            {positions.map((one) => (
              <Chip key={one.id} onClick={() => void edits.position(stave.id, one.id, place).then(setWrong)}>
                at {one.name}
              </Chip>
            ))}
          </Box>
        </>
      )}
      {wrong && <FaultNote what={wrong} />}
    </Part>
  );
}

function Chosen({ show, score, entries, edits }: SideProps) {
  const [wrong, setWrong] = useState("");
  const [first] = entries;
  if (!first) return null;
  const ids = entries.map((one) => one.id);
  const many = entries.length > 1;
  const stave = score.staves.find((one) => one.id === first.stave);
  const set = (fields: EntryFields) => edits.set(ids, fields);
  const same = (word: (one: Entry) => string | undefined): string =>
    entries.every((one) => word(one) === word(first)) ? (word(first) ?? "") : "";
  const of = many ? `${entries.length} entries` : first.name;
  const mixed = many ? "mixed" : "";
  const looks = show.looks.filter((one) => stave?.looks.includes(one.id));
  return (
    <Part sx={{ borderTop: 0 }} role="group" aria-label="Chosen entries">
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1, mb: 1 }}>
        <b style={{ fontWeight: 600, fontSize: 15 }}>{many ? `${entries.length} entries` : first.name}</b>
        <Cap sx={{ mr: "auto" }}>{many ? "" : `on ${stave?.name ?? "a stave"}`}</Cap>
        <Button variant="text" onClick={() => useView.setState({ entries: [] })}>
          Close
        </Button>
      </Box>
      {first.gone && !many && (
        <FaultNote what={`${first.name}: it plays nothing.`} repair="Choose another look, or undo." />
      )}
      {!many && (
        <Typed numeric label={`Place of ${of}`} value={first.place} onCommit={(place) => set({ place })} />
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 1, mt: 1 }}>
        <Field word="level">
          <Typed
            numeric
            label={`Level of ${of}`}
            placeholder={mixed}
            value={same((one) => one.said.level)}
            onCommit={(level) => set({ level })}
          />
        </Field>
        <Field word={first.follows ? "crossfade" : "fade in"}>
          <Typed
            numeric
            label={`Fade in of ${of}`}
            placeholder={mixed}
            value={same((one) => one.said.fade_in)}
            onCommit={(fade_in) => set({ fade_in })}
          />
        </Field>
        <Field word="fade out">
          <Typed
            numeric
            label={`Fade out of ${of}`}
            placeholder={mixed}
            value={same((one) => one.said.fade_out)}
            onCommit={(fade_out) => set({ fade_out })}
          />
        </Field>
      </Box>
      <Cap sx={{ mt: 1.25, mb: 0.75 }}>plays</Cap>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75 }}>
        {[...looks.map((one) => one.name), "white"].map((name) => (
          <Chip
            key={name}
            active={same((one) => one.name) === name}
            aria-pressed={same((one) => one.name) === name}
            onClick={() => void set({ plays: name }).then(setWrong)}
          >
            {name}
          </Chip>
        ))}
      </Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "92px 1fr 92px 1fr",
          gap: 1,
          mt: 1.5,
          alignItems: "center",
        }}
      >
        <Cap>repeat every</Cap>
        <Typed
          label={`Repeat ${of} every`}
          placeholder="4 bars"
          value=""
          onCommit={(every) => (every ? edits.repeat(ids, every) : "")}
        />
        <Cap>move by beats</Cap>
        <Typed
          numeric
          label={`Move ${of} by beats`}
          placeholder="-4"
          value=""
          onCommit={async (text) => {
            const beats = Number(text.replace(",", "."));
            if (!text) return "";
            if (!Number.isFinite(beats)) return "Type beats like 4, or -4.";
            await edits.shift(ids, beats);
            return "";
          }}
        />
      </Box>
      <Box sx={{ display: "flex", gap: 1, mt: 1.25 }}>
        <Button onClick={() => void edits.copy(ids)}>Copy behind it</Button>
        <Button sx={{ color: ink.soft }} onClick={() => void edits.drop(ids)}>
          Delete
        </Button>
      </Box>
      {wrong && <FaultNote what={wrong} />}
    </Part>
  );
}

function Field({ word, children }: { word: string; children: React.ReactNode }) {
  return (
    <div>
      <Cap>{word}</Cap>
      {children}
    </div>
  );
}
