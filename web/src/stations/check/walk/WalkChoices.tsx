import { Box, MenuItem, Select } from "@mui/material";
import { useState } from "react";
import { client, type Fault, type WholeShow } from "../../../api/client";
import { Cap, FaultNote } from "../../../components/atoms";
import { Field } from "../../../components/Field";
import { emitterWord, SEEN, WAYS, type WalkBy, type WalkView } from "../../../model/walks";
import { useView } from "../../../stores/view";
import { ink } from "../../../theme/tokens";
import { change, doing } from "./useWalk";

const TYPED = "typed";
const LINE_S = 0.25;

/** What to walk over and how; a choice acts at once on a walk that is on. */
export function WalkChoices({ show, walk }: { show: WholeShow; walk: WalkView | null }) {
  const matrix = useView((view) => view.matrix);
  const universe = useView((view) => view.universe);
  const first = show.matrices.find((one) => one.id === matrix) ?? show.matrices[0];
  const [over, setOver] = useState<string>("");
  const [typed, setTyped] = useState("all");
  const [fault, setFault] = useState<Fault | null>(null);
  const chosen = over || walk?.matrix || first?.id || TYPED;
  const begin = async (by: WalkBy, where = chosen, selection = typed) => {
    setFault(null);
    const place =
      where === "universe"
        ? { universe, selection: "all" }
        : where === TYPED
          ? { selection }
          : { matrix: where, selection: "all" };
    await doing(
      client.POST("/api/walk", {
        body: {
          by: where === "universe" ? "address" : by,
          emitter: "",
          level: walk?.level ?? 1,
          alone: walk?.alone ?? true,
          seconds: by === "line" ? LINE_S : (walk?.seconds ?? 0),
          ...place,
        },
      }),
      setFault,
    );
  };
  return (
    <Box sx={{ px: 2, pb: 1.25 }}>
      <Box
        sx={{
          display: "flex",
          gap: 0.75,
          rowGap: 0.5,
          flexWrap: "wrap",
          alignItems: "center",
          mb: 1,
          "& .MuiSelect-select": { py: 0.25, fontSize: 13 },
        }}
      >
        <Cap>over</Cap>
        <Select
          variant="standard"
          value={chosen}
          sx={{ minWidth: 150, flex: 1 }}
          title={show.matrices.find((one) => one.id === chosen)?.name}
          inputProps={{ "aria-label": "Walk over" }}
          onChange={(event) => {
            setOver(event.target.value);
            if (walk) void begin(event.target.value === "universe" ? "address" : walk.by, event.target.value);
          }}
        >
          {show.matrices.map((one) => (
            <MenuItem key={one.id} value={one.id}>
              {one.name}
            </MenuItem>
          ))}
          <MenuItem value={TYPED}>a typed selection</MenuItem>
          <MenuItem value="universe">U{universe}, by address</MenuItem>
        </Select>
        {chosen === TYPED && (
          <Field
            width={92}
            label="Lamps to walk over"
            value={typed}
            onChange={setTyped}
            onKeyDown={(event) => event.key === "Enter" && void begin(walk?.by ?? "fixture")}
          />
        )}
      </Box>
      <Box sx={{ display: "flex", flexWrap: "wrap", columnGap: 1.5, rowGap: 0.25 }}>
        {WAYS.map(([by, word]) => (
          <Word key={by} on={walk?.by === by} onClick={() => void begin(by)}>
            {word}
          </Word>
        ))}
      </Box>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      {walk ? (
        <Box sx={{ display: "flex", columnGap: 1.25, mt: 0.75, alignItems: "center" }}>
          <Cap>in</Cap>
          {["", ...SEEN.slice(0, 4).map(([key]) => key)].map((emitter) => (
            <Word key={emitter} on={walk.emitter === emitter} onClick={() => void change({ emitter })}>
              {emitter ? emitterWord(emitter) : "all"}
            </Word>
          ))}
        </Box>
      ) : (
        <Cap sx={{ mt: 1, lineHeight: "17px" }}>
          Lights one after another on the real lamps, everything else dark. Looks go on unseen, and all is as
          before when it ends. For a phone: open /phone.
        </Cap>
      )}
    </Box>
  );
}

interface WordProps {
  on: boolean;
  onClick: () => void;
  children: string;
}

/** A choice as a word; the chosen one is underlined. */
function Word({ on, onClick, children }: WordProps) {
  return (
    <Box
      component="button"
      aria-pressed={on}
      onClick={onClick}
      sx={{
        font: "inherit",
        fontSize: 13.5,
        lineHeight: "24px",
        color: on ? ink.text : ink.soft,
        fontWeight: on ? 600 : 400,
        background: "none",
        border: 0,
        borderBottom: `2px solid ${on ? ink.brass : "transparent"}`,
        p: 0,
        cursor: "pointer",
        whiteSpace: "nowrap",
        "&:hover": { color: ink.text },
      }}
    >
      {children}
    </Box>
  );
}
