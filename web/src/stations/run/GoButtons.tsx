import { Box, ButtonBase } from "@mui/material";
import type { ReactNode } from "react";
import { KeyCap } from "../../components/atoms";
import { ink } from "../../theme/tokens";
import { type Cue, type CueList, type Playing, press } from "./useCueList";

interface ButtonsProps {
  list: CueList;
  playing: Playing | undefined;
  next: Cue | undefined;
  before: Cue | undefined;
}

/** Back, Release, Hold and Go; each says what it will do. */
export function GoButtons({ list, playing, next, before }: ButtonsProps) {
  return (
    <Box
      role="group"
      aria-label="Go"
      sx={{
        display: "grid",
        gridTemplateColumns: "minmax(84px,1fr) minmax(92px,1fr) 82px minmax(210px,2.7fr)",
        gap: 1,
        px: 2,
        py: 1.25,
      }}
    >
      <Big
        name="Back"
        cap="Bksp"
        off={!before}
        says={before ? `to ${said(before)}` : "there is none before"}
        onPress={() => press(list.id, "back")}
      />
      <Big
        name="Release"
        cap="R"
        off={!playing?.cue}
        says={playing?.cue ? `list lets go, ${letsGo(list)}` : "it does not run"}
        onPress={() => press(list.id, "release")}
      />
      <Big
        name={playing?.holds ? "Go on" : "Hold"}
        cap="H"
        off={!playing}
        on={playing?.holds}
        says="fade"
        onPress={() => press(list.id, "hold")}
      />
      <ButtonBase
        title={next ? `Go: ${said(next)}` : "Go: at the end"}
        disabled={!next}
        onClick={() => press(list.id, "go")}
        sx={{
          justifyContent: "flex-start",
          gap: 1.25,
          px: 1.5,
          borderRadius: 1.25,
          border: `1.5px solid ${next ? ink.brass : ink.hair2}`,
          background: next ? ink.brassGround : "none",
          color: next ? ink.brass : ink.faint,
          minHeight: 66,
          textAlign: "left",
        }}
      >
        <svg width="22" height="24" viewBox="0 0 22 24" aria-hidden="true">
          <path d="M2 2 20 12 2 22Z" fill="none" stroke="currentColor" strokeWidth="2" />
        </svg>
        <Box sx={{ fontSize: 26, fontWeight: 650 }}>Go</Box>
        <Box sx={{ flex: 1, minWidth: 0, color: ink.text }}>
          <Line sx={{ fontSize: 16, fontWeight: 600 }}>{next ? said(next) : "the last cue stands"}</Line>
          {next?.note && <Line sx={{ fontSize: 12, color: ink.soft }}>{next.note}</Line>}
        </Box>
        {list.main && <KeyCap sx={{ background: ink.brass, color: ink.ground, ...NARROW }}>Space</KeyCap>}
      </ButtonBase>
    </Box>
  );
}

function Line({ children, sx }: { children: ReactNode; sx: object }) {
  return (
    <Box
      component="span"
      sx={{ display: "block", overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap", ...sx }}
    >
      {children}
    </Box>
  );
}

interface BigProps {
  name: string;
  cap: string;
  says: string;
  off: boolean;
  on?: boolean | undefined;
  onPress: () => void;
}

function Big({ name, cap, says, off, on, onPress }: BigProps) {
  return (
    <ButtonBase
      disabled={off}
      aria-pressed={on}
      title={says}
      onClick={onPress}
      sx={{
        display: "block",
        textAlign: "left",
        px: 1.5,
        py: 1,
        borderRadius: 1.25,
        border: `1px solid ${on ? ink.brass : ink.hair2}`,
        background: ink.row,
        color: off ? ink.faint : on ? ink.brass : ink.text,
        minWidth: 0,
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
        <Box component="span" sx={{ fontSize: 17, fontWeight: 600, mr: "auto" }}>
          {name}
        </Box>
        <KeyCap sx={NARROW}>{cap}</KeyCap>
      </Box>
      <Line sx={{ fontSize: 12, color: off ? ink.faint : ink.soft }}>{says}</Line>
    </ButtonBase>
  );
}

/** Keys are named where there is room; they work everywhere. */
const NARROW = { "@media (max-width: 1220px)": { display: "none" } };

export const said = (cue: Cue): string => `${cue.number} ${cue.name || cue.looks}, ${cue.fade_in}`;

const letsGo = (list: CueList): string =>
  list.letting_go === "fade"
    ? list.release
    : { "at once": "at once", bar: "at the bar", clip: "when the clip ends" }[list.letting_go];
