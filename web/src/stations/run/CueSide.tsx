import { Box, Button } from "@mui/material";
import { Cap, FaultNote, Part } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { type Cue, type CueEdits, type CueFields, type CueList, press } from "./useCueList";

const MARKS = ["", "amber", "sea", "coral", "moss", "violet"] as const;

/** What a row has no room for: times out, delay, curve, mark; of all chosen cues at once. */
export function CueSide({ list, cues, edits }: { list: CueList; cues: Cue[]; edits: CueEdits }) {
  const [first] = cues;
  if (!first) return null;
  const ids = cues.map((one) => one.id);
  const set = (fields: CueFields) => edits.set(ids, fields);
  /** What all of them say, else nothing. */
  const same = <K extends keyof Cue>(name: K): Cue[K] | "" =>
    cues.every((one) => one[name] === first[name]) ? first[name] : "";
  const mixed = cues.length > 1 ? "mixed" : "";
  const of = cues.length > 1 ? `${cues.length} cues` : `cue ${first.number}`;
  return (
    <Part role="group" aria-label="Chosen cues">
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
        <b style={{ fontWeight: 600, marginRight: "auto" }}>
          {cues.length > 1 ? `${cues.length} cues chosen` : `Cue ${first.number} ${first.name}`}
        </b>
        <Button variant="text" onClick={() => useView.setState({ cues: [] })}>
          Close
        </Button>
      </Box>
      {cues
        .filter((one) => one.gone.length)
        .map((one) => (
          <FaultNote
            key={one.id}
            what={`Cue ${one.number} names ${one.gone.join(" and ")}, which ${one.gone.length > 1 ? "are" : "is"} gone.`}
            repair="Type something else, or undo."
          />
        ))}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "76px 1fr 60px 1fr",
          gap: 1,
          alignItems: "center",
          fontSize: 13,
        }}
      >
        <Cap>fade in</Cap>
        <Typed
          numeric
          label={`Fade in of ${of}`}
          placeholder={mixed}
          value={same("fade_in")}
          onCommit={(fade_in) => set({ fade_in: fade_in || "0 s" })}
        />
        <Cap>out</Cap>
        <Typed
          numeric
          label={`Fade out of ${of}`}
          placeholder={mixed || "as in"}
          value={same("fade_out")}
          onCommit={(fade_out) => set({ fade_out })}
        />
        <Cap>delay</Cap>
        <Typed
          numeric
          label={`Delay of ${of}`}
          placeholder={mixed || "0 s"}
          value={same("delay")}
          onCommit={(delay) => set({ delay })}
        />
        <Cap>then</Cap>
        <Typed
          label={`Then of ${of}, beside`}
          placeholder={mixed}
          value={same("then")}
          onCommit={(then) => set({ then })}
        />
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "76px 1fr", gap: 1, mt: 1, alignItems: "center" }}>
        <Cap>does beside</Cap>
        <Typed
          label={`What ${of} does beside`}
          placeholder={mixed || "The grand master 80 %"}
          value={same("does")}
          onCommit={(does) => set({ does })}
        />
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1.25, alignItems: "center" }}>
        <Button
          aria-pressed={same("ready") === true}
          color={same("ready") === true ? "primary" : "inherit"}
          title="Heads that are dark before it stand as it wants them already"
          onClick={() => void set({ ready: same("ready") !== true })}
        >
          Ready in the dark
        </Button>
        <Choices
          names={[
            ["straight", "straight"],
            ["eased", "eased"],
          ]}
          chosen={same("curve") || "straight"}
          onChoose={(curve) => void set({ curve })}
        />
        <Box
          component="select"
          aria-label={`Mark of ${of}`}
          value={same("mark")}
          onChange={(event: React.ChangeEvent<HTMLSelectElement>) =>
            void set({ mark: event.target.value as Cue["mark"] })
          }
          sx={{
            height: 26,
            font: "inherit",
            fontSize: 13,
            color: ink.text,
            background: ink.row,
            border: `1px solid ${ink.hair2}`,
            borderRadius: "4px",
          }}
        >
          {MARKS.map((mark) => (
            <option key={mark} value={mark}>
              {mark || "no mark"}
            </option>
          ))}
        </Box>
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1.25 }}>
        {cues.length === 1 && (
          <Button onClick={() => press(list.id, "go_to", first.number)}>Go to {first.number}</Button>
        )}
        <Button onClick={() => void edits.copy(ids)}>Copy</Button>
        <Button onClick={() => void edits.renumber(cues.length > 1 ? ids : [], 1, 1)}>
          {cues.length > 1 ? "Renumber these from 1" : "Renumber all"}
        </Button>
        <Button sx={{ color: ink.soft }} onClick={() => void edits.drop(ids)}>
          Delete
        </Button>
      </Box>
    </Part>
  );
}
