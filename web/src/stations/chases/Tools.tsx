import { Box } from "@mui/material";
import { Cap, Chip, Num } from "../../components/atoms";
import { ColourChooser } from "../../components/ColourChooser";
import { ink } from "../../theme/tokens";
import type { Rgb, Tool } from "./useChaseEdits";

const TOOLS: readonly [Tool | "pick up", string][] = [
  ["pen", "Draws on the squares you go over"],
  ["line", "A straight line from where you press to where you let go"],
  ["rectangle", "Fills all between two corners"],
  ["fill", "Fills what hangs together in one colour"],
  ["pick up", "Takes the colour of a square"],
  ["erase", "Makes squares clear: what lies beneath shows"],
  ["move", "Moves all of it; what leaves is gone"],
];

interface ToolsProps {
  tool: Tool | "pick up";
  onTool: (tool: Tool | "pick up") => void;
  onMirror: (way: "mirror across" | "mirror down") => void;
  colour: Rgb;
  onColour: (colour: Rgb) => void;
  picture: ImageData | undefined;
}

/** What is drawn with, and in which colour; the colours that stand in the frame are at hand. */
export function Tools({ tool, onTool, onMirror, colour, onColour, picture }: ToolsProps) {
  return (
    <Box sx={{ display: "grid", gap: 1, alignContent: "start", minWidth: 0 }}>
      <Box role="group" aria-label="Tools" sx={{ display: "flex", gap: 0.75, flexWrap: "wrap" }}>
        {TOOLS.map(([name, says]) => (
          <Chip
            key={name}
            active={tool === name}
            aria-pressed={tool === name}
            title={says}
            onClick={() => onTool(name)}
          >
            {name}
          </Chip>
        ))}
        <Chip title="Turns left and right over" onClick={() => onMirror("mirror across")}>
          mirror across
        </Chip>
        <Chip title="Turns it upside down" onClick={() => onMirror("mirror down")}>
          mirror down
        </Chip>
      </Box>
      <ColourChooser label="Colour to draw with" rgb={colour} onMove={onColour} onCommit={onColour} />
      <InFrame picture={picture} onColour={onColour} />
    </Box>
  );
}

const SHOWN = 8;

/** The colours of the frame, most of them first, and how many squares have each. */
function InFrame({ picture, onColour }: { picture: ImageData | undefined; onColour: (colour: Rgb) => void }) {
  if (!picture) return null;
  const counted = new Map<string, number>();
  const data = picture.data;
  for (let at = 0; at < data.length; at += 4) {
    const key = data[at + 3] ? `${data[at]} ${data[at + 1]} ${data[at + 2]}` : "clear";
    counted.set(key, (counted.get(key) ?? 0) + 1);
  }
  const clear = counted.get("clear") ?? 0;
  counted.delete("clear");
  const most = [...counted].sort((a, b) => b[1] - a[1]);
  return (
    <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap", mt: 0.25 }}>
      <Cap>in this frame</Cap>
      {most.slice(0, SHOWN).map(([key, count]) => (
        <Box
          key={key}
          component="button"
          aria-label={`${count} of ${key}: draw with it`}
          onClick={() => onColour(key.split(" ").map(Number) as Rgb)}
          sx={{
            display: "inline-flex",
            alignItems: "center",
            gap: 0.5,
            border: 0,
            p: 0.25,
            font: "inherit",
            fontSize: 12.5,
            color: ink.text,
            background: "none",
            cursor: "pointer",
          }}
        >
          <span style={{ width: 16, height: 16, borderRadius: 3, background: `rgb(${key})` }} />
          <Num>{count}</Num>
        </Box>
      ))}
      {most.length > SHOWN && <Cap>and {most.length - SHOWN} more</Cap>}
      <Cap>
        <Num>{clear}</Num> clear
      </Cap>
    </Box>
  );
}
