import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Cap, Chip, FaultNote, Part } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { HandleFinder } from "../../components/HandleFinder";
import { Typed } from "../../components/Typed";
import { HUES, type Item, SAID_OF_SHAPES, shapeOf } from "../../page/shapes";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import type { PageEdits } from "./usePages";

const DOES = [
  ["on", "on"],
  ["off", "off"],
  ["turn", "turn over"],
  ["value", "to a value"],
  ["beats", "for n beats"],
  ["nothing", "nothing"],
] as const;
const MARKS = ["", "sent", "drop", "fog", "beam", "snow", "waves", "sun", "star", "house"];

type Half = Schemas["HalfBody"];

/** What an item is called, looks like, does and moves. */
export function ItemSide({ item, edits }: { item: Item; edits: PageEdits }) {
  const [wrong, setWrong] = useState("");
  const set = async (body: Schemas["ItemPatch"]) => {
    const problem = await edits.set(item.id, body);
    setWrong(problem);
    return problem;
  };
  const addresses = item.handles.map((one) => one.handle);
  return (
    <>
      <Box sx={{ px: 2, pt: 1.5, pb: 1, display: "flex", alignItems: "center", gap: 1 }}>
        <b style={{ fontWeight: 600, marginRight: "auto", textTransform: "capitalize" }}>{item.kind}</b>
        <Button variant="text" onClick={() => useView.setState({ item: "" })}>
          Close
        </Button>
        <Button sx={{ color: ink.soft }} onClick={() => void edits.drop([item.id])}>
          Remove
        </Button>
      </Box>
      {wrong && (
        <Box sx={{ px: 2 }}>
          <FaultNote what={wrong} />
        </Box>
      )}
      <Part>
        <Box sx={{ display: "grid", gridTemplateColumns: "64px 1fr", gap: 1, alignItems: "center" }}>
          <Cap>words</Cap>
          <Typed label="Words on the item" value={item.words} onCommit={(words) => set({ words })} />
          <Cap>mark</Cap>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
            {MARKS.map((one) => (
              <Chip
                key={one}
                active={item.mark === one}
                aria-pressed={item.mark === one}
                onClick={() => void set({ mark: one })}
              >
                {one === "sent" ? "as sent" : one || "none"}
              </Chip>
            ))}
          </Box>
          <Cap>colour</Cap>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
            {(Object.keys(HUES) as Item["hue"][]).map((one) => (
              <Chip
                key={one}
                active={item.hue === one}
                aria-pressed={item.hue === one}
                onClick={() => void set({ hue: one })}
              >
                <span style={{ width: 10, height: 10, background: HUES[one], borderRadius: 2 }} />
                {one}
              </Chip>
            ))}
          </Box>
          <Cap>lies</Cap>
          <Box sx={{ display: "grid", gridTemplateColumns: "repeat(4, 1fr)", gap: 0.5 }}>
            {(["x", "y", "w", "h"] as const).map((name) => (
              <Typed
                key={name}
                numeric
                label={PLACES[name]}
                value={String(item[name] + (name === "x" || name === "y" ? 1 : 0))}
                onCommit={(text) => {
                  const value = Number(text);
                  if (!Number.isInteger(value) || value < 1) return "Type a whole number from 1.";
                  return set({ [name]: name === "x" || name === "y" ? value - 1 : value });
                }}
              />
            ))}
          </Box>
          <span />
          <Cap>column, row, squares wide and high</Cap>
        </Box>
      </Part>
      {item.kind === "pad" && (
        <Part>
          <HalfChoice word="On touch" half={item.touch} onChange={(touch) => set({ touch })} />
          <HalfChoice word="On lifting" half={item.lift} lifting onChange={(lift) => set({ lift })} />
          <Cap sx={{ mt: 1 }}>Its outline says: {SAID_OF_SHAPES[shapeOf(item)]}.</Cap>
        </Part>
      )}
      {item.kind !== "tap" && item.kind !== "words" && (
        <Part>
          <Handles
            item={item}
            onChange={(handles) => set({ handles })}
            onAdd={(address) =>
              set({
                handles:
                  item.kind === "list" ? [address] : [...addresses.filter((one) => one !== address), address],
              })
            }
          />
        </Part>
      )}
    </>
  );
}

const PLACES = { x: "Column", y: "Row", w: "Squares wide", h: "Squares high" };

interface HalfProps {
  word: string;
  half: Half;
  lifting?: boolean;
  onChange: (half: NonNullable<Schemas["ItemPatch"]["touch"]>) => Promise<string>;
}

function HalfChoice({ word, half, lifting, onChange }: HalfProps) {
  const now = half;
  return (
    <Box sx={{ mb: 1.25 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 0.5, minHeight: 28 }}>
        <b style={{ fontWeight: 600, fontSize: 13.5 }}>{word}</b>
        {now.do === "beats" && (
          <Box sx={{ width: 60 }}>
            <Typed
              numeric
              label="For how many beats"
              value={String(now.beats ?? 8)}
              onCommit={(text) => onChange({ do: "beats", beats: Number(text.replace(",", ".")) || 0 })}
            />
          </Box>
        )}
        {now.do === "value" && (
          <Box sx={{ width: 80 }}>
            <Typed
              numeric
              label={`Value ${word.toLowerCase()}, percent`}
              value={`${Math.round(Number(now.value ?? 0) * 100)} %`}
              onCommit={(text) =>
                onChange({ do: "value", beats: 0, value: Number.parseFloat(text.replace(",", ".")) / 100 })
              }
            />
          </Box>
        )}
      </Box>
      <Choices
        names={DOES.filter(([key]) => !(lifting && key === "beats"))}
        chosen={now.do}
        onChoose={(key) =>
          void onChange({
            do: key,
            beats: key === "beats" ? 8 : 0,
            ...(key === "value" ? { value: 0.5 } : {}),
          })
        }
      />
    </Box>
  );
}

interface HandlesProps {
  item: Item;
  onChange: (handles: string[]) => Promise<string>;
  onAdd: (address: string) => Promise<string>;
}

/** What it moves: found by words among everything there is. */
function Handles({ item, onChange, onAdd }: HandlesProps) {
  return (
    <Box role="group" aria-label="Handles">
      <b style={{ fontWeight: 600, fontSize: 13.5 }}>Moves</b>
      {item.handles.map((one) => (
        <Box key={one.handle} sx={{ display: "flex", alignItems: "center", gap: 1, py: 0.25 }}>
          <span
            style={{
              flex: 1,
              minWidth: 0,
              overflow: "hidden",
              textOverflow: "ellipsis",
              whiteSpace: "nowrap",
            }}
          >
            {one.words}
          </span>
          <Cap>{one.kind}</Cap>
          <Button
            variant="text"
            aria-label={`Remove ${one.words}`}
            sx={{ minWidth: 0, color: ink.soft }}
            onClick={() =>
              void onChange(item.handles.filter((each) => each !== one).map((each) => each.handle))
            }
          >
            Remove
          </Button>
        </Box>
      ))}
      {!item.handles.length && (
        <Cap sx={{ py: 0.5 }}>Nothing yet: find a look, a level, a list by its words.</Cap>
      )}
      <HandleFinder onAdd={onAdd} />
    </Box>
  );
}
