import { Box } from "@mui/material";
import { useView } from "../stores/view";
import { ink } from "../theme/tokens";
import { KeyCap } from "./atoms";
import { Dialog } from "./LazyMui";

const KEYS: [string, string][] = [
  ["?", "what stands under the pointer, or has the focus; F1 does the same in a field"],
  ["1 to 6", "the stations, in the order of the work"],
  ["Z, Shift Z", "undo and redo your own edits"],
  ["B", "blackout on and off"],
  ["L", "make every laser safe, at once"],
  ["T", "tap the tempo"],
  ["Space", "Run: go; Looks: start or stop the chosen look"],
  ["Bksp, H, R", "Run: back, hold, let go of the main list"],
  ["↑ ↓", "Looks: choose a line; with Alt move it in the stack"],
  ["M, S, D, R", "Looks: mute, solo, duplicate the chosen line, draw it anew"],
  ["← →", "Looks: move a colour along its ramp; Delete takes it away"],
  ["K", "Rig: keep everything held by hand as a look"],
  ["← → ↑ ↓", "Rig: turn heads, with pan and tilt chosen"],
  ["H", "Rig: light the chosen fixtures up while it is held"],
  ["Arrows", "Matrices: move over the squares, with Shift choose them; tables: over the rows"],
  ["→ ←", "Check: on and back on a test walk; H holds it"],
  ["G D P C", "Check: mark good, dark, wrong place, wrong colour"],
  ["Enter", "Matrices: pick a cell up, put it down on another to exchange"],
  ["Delete", "take the chosen thing away"],
  ["Esc", "leave a field as it was"],
];

/** The keys, and where to begin. */
export function Help() {
  const open = useView((view) => view.help);
  return (
    <Dialog open={open} onClose={() => useView.setState({ help: false })} maxWidth="sm">
      <Box sx={{ p: 3, width: 520 }}>
        <Box component="h2" sx={{ m: 0, mb: 1, fontSize: 18 }}>
          From nothing to light
        </Box>
        <Box component="ol" sx={{ pl: 2.5, mt: 0, color: ink.soft, "& li": { mb: 0.5 } }}>
          <li>Rig: type what hangs there into the line at the foot, for example 21 x RGB lamp.</li>
          <li>Patch: add an output and look whether the node is heard.</li>
          <li>Matrices: weave the cells in the order they are wired.</li>
          <li>Looks: add a line, choose a colour, switch it on. The live strip shows what is really sent.</li>
        </Box>
        <Box sx={{ display: "grid", gridTemplateColumns: "110px 1fr", rowGap: 1, mt: 2 }}>
          {KEYS.map(([key, what]) => (
            <Box key={key} sx={{ display: "contents" }}>
              <span>
                <KeyCap>{key}</KeyCap>
              </span>
              <span>{what}</span>
            </Box>
          ))}
        </Box>
      </Box>
    </Dialog>
  );
}
