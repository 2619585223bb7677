import { Box } from "@mui/material";
import { type ItemNow, lift, touch } from "../stores/page";
import { ink } from "../theme/tokens";
import { Line } from "./ItemView";
import { clipOf, type Item } from "./shapes";

/** A cue list: back, where it is, and Go, which names what it starts. */
export function ListItem({ item, now, still }: { item: Item; now: ItemNow; still: boolean }) {
  return (
    <Box
      role="group"
      aria-label={item.words || now.list || "List"}
      sx={{
        flex: 1,
        minWidth: 0,
        display: "grid",
        gridTemplateColumns: "minmax(70px,1fr) minmax(0,1.3fr) minmax(140px,2.4fr)",
        gap: "10px",
        "@media (max-width: 600px)": {
          gridTemplateColumns: "92px minmax(0,1fr) minmax(0,1.9fr)",
          gap: "6px",
        },
      }}
    >
      <Key item={item} part="back" off={!now.before} still={still} mirrored>
        <Line sx={{ fontSize: 20, fontWeight: 650 }}>Back</Line>
        <Line sx={{ fontSize: 14, color: ink.soft }}>{now.before || "none before"}</Line>
      </Key>
      <Box sx={{ minWidth: 0, alignSelf: "center" }}>
        <Line sx={{ fontSize: 18, fontWeight: 650, color: now.gone ? ink.coral : ink.text }}>{now.said}</Line>
        <Line sx={{ fontSize: 14, color: ink.soft }}>
          {now.left || (now.list ? `now in ${now.list}` : "")}
        </Line>
      </Box>
      <Key item={item} part="go" off={!now.next} still={still} strong>
        <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, minWidth: 0 }}>
          <Box sx={{ fontSize: 32, fontWeight: 700, color: now.next ? ink.brass : ink.faint }}>Go</Box>
          <Box
            sx={{
              fontSize: 19,
              fontWeight: 600,
              lineHeight: "24px",
              minWidth: 0,
              "@media (max-width: 600px)": { fontSize: 16, lineHeight: "20px" },
            }}
          >
            {now.next || "the last cue stands"}
          </Box>
        </Box>
      </Key>
    </Box>
  );
}

interface KeyProps {
  item: Item;
  part: string;
  off: boolean;
  still: boolean;
  strong?: boolean;
  mirrored?: boolean;
  children: React.ReactNode;
}

function Key({ item, part, off, still, strong, mirrored, children }: KeyProps) {
  const clip = clipOf("on");
  const press = (finger: number) => !still && !off && touch(item.id, finger, part);
  return (
    <Box
      component="button"
      aria-label={part === "go" ? "Go" : "Back"}
      disabled={off}
      onPointerDown={(event: React.PointerEvent) => press(event.pointerId)}
      onPointerUp={(event: React.PointerEvent) => lift(event.pointerId)}
      onPointerCancel={(event: React.PointerEvent) => lift(event.pointerId)}
      onKeyDown={(event: React.KeyboardEvent) => {
        if (event.repeat || (event.key !== " " && event.key !== "Enter")) return;
        event.preventDefault();
        press(998);
      }}
      onKeyUp={() => lift(998)}
      sx={{
        border: 0,
        p: 0,
        font: "inherit",
        color: ink.text,
        position: "relative",
        touchAction: "none",
        textAlign: "left",
        background: off ? ink.hair2 : strong ? ink.brass : ink.soft,
        clipPath: clip,
        transform: mirrored ? "scaleX(-1)" : undefined,
        minWidth: 0,
      }}
    >
      <Box
        sx={{
          position: "absolute",
          inset: "2px",
          clipPath: clip,
          background: strong && !off ? ink.brassGround : ink.row,
          display: "flex",
          alignItems: "center",
        }}
      >
        <Box sx={{ minWidth: 0, px: 2, flex: 1, transform: mirrored ? "scaleX(-1)" : undefined, pr: 3 }}>
          {children}
        </Box>
      </Box>
    </Box>
  );
}
