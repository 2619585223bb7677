import { Box, Button } from "@mui/material";
import { useEffect, useState } from "react";
import type { WholeShow } from "../../../api/client";
import { Cap, FaultNote, KeyCap, Num, PaneHead } from "../../../components/atoms";
import { Typed } from "../../../components/Typed";
import { MARKS, type WalkView } from "../../../model/walks";
import { urge } from "../../../stores/urgent";
import { ink } from "../../../theme/tokens";
import { Asked } from "./Asked";
import { Marks } from "./Marks";
import { StrandBar } from "./StrandBar";
import { cancelAsk, change, go, mark, press, stop, useAsking } from "./useWalk";
import { WalkChoices } from "./WalkChoices";

/** Test walks: what is lit now, back and on by key or by itself, and what was seen. */
export function WalkPanel({ show, walk }: { show: WholeShow; walk: WalkView | undefined }) {
  const [missing, setMissing] = useState("");
  const running = walk?.running ? walk : null;
  useEffect(() => {
    if (!running) return;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest(
        "input:not([type=range]):not([type=checkbox]), textarea, select, [role=listbox]",
      );
      if (typing || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
      const key = event.key.toUpperCase();
      const kind = MARKS.find((one) => one.key === key)?.kind;
      setMissing("");
      if (event.key.startsWith("Arrow") && target.matches("input[type=range]")) return; // a slider's own step
      if (event.key === "ArrowRight") void go({ by: 1 });
      else if (event.key === "ArrowLeft") void go({ by: -1 });
      else if (event.key === "Escape") void cancelAsk();
      else if (key === "H") void change({ hold: !running.hold });
      else if (kind === "dark" && event.shiftKey) void mark(running, "dark", { onward: true });
      else if (kind) void press(running, show, kind).then(setMissing);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [running, show]);
  return (
    <Box role="group" aria-label="Test walk">
      <PaneHead title="Test walk">
        {running && (
          <>
            <Cap sx={{ color: ink.brass }}>
              {running.hold ? "held" : running.seconds ? "goes by itself" : "by hand"}
            </Cap>
            <Button onClick={() => void stop()}>End</Button>
          </>
        )}
      </PaneHead>
      <WalkChoices show={show} walk={running} />
      {running && <Now show={show} walk={running} missing={missing} />}
      <Marks show={show} walk={running} onMissing={setMissing} />
    </Box>
  );
}

interface NowProps {
  show: WholeShow;
  walk: WalkView;
  missing: string;
}

function Now({ show, walk, missing }: NowProps) {
  const ask = useAsking((asking) => asking.ask);
  return (
    <Box
      sx={{
        borderLeft: `3px solid ${ink.brass}`,
        borderBottom: `1px solid ${ink.hair}`,
        background: `linear-gradient(${ink.brassGround}, ${ink.panel})`,
        px: 1.5,
        py: 1.25,
      }}
    >
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1 }}>
        <Box
          role="status"
          aria-label="Lit now"
          sx={{ fontSize: 19, fontWeight: 620, lineHeight: "24px", overflowWrap: "anywhere" }}
        >
          {walk.label}
        </Box>
        <Button
          size="small"
          aria-pressed={!walk.alone}
          title={walk.alone ? "Press to leave the show on around it" : "Press to make everything else dark"}
          onClick={() => void change({ alone: !walk.alone })}
          sx={{ ml: "auto", flex: "none", minWidth: 0, px: 1, color: walk.alone ? ink.soft : ink.brass }}
        >
          {walk.alone ? "all else dark" : "over the show"}
        </Button>
      </Box>
      <Box sx={{ display: "flex", fontSize: 13, color: ink.soft, mt: 0.25 }}>
        <span>
          <Num>{walk.index + 1}</Num> of <Num>{walk.count}</Num>, {walk.over}
        </span>
        <Num style={{ marginLeft: "auto", color: ink.text }}>{walk.place}</Num>
      </Box>
      <StrandBar walk={walk} />
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 0.75 }}>
        <Button onClick={() => void go({ by: -1 })}>
          Back <KeyCap>←</KeyCap>
        </Button>
        <Button
          aria-pressed={walk.hold}
          disabled={!walk.seconds}
          onClick={() => void change({ hold: !walk.hold })}
        >
          Hold <KeyCap>H</KeyCap>
        </Button>
        <Button color="primary" onClick={() => void go({ by: 1 })}>
          Next <KeyCap sx={{ color: "inherit" }}>→</KeyCap>
        </Button>
      </Box>
      <Pace walk={walk} />
      {walk.blackout && (
        <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
          <FaultNote what="Blackout is on: nothing of it shows." />
          <Button onClick={() => urge("blackout", false)}>Blackout off</Button>
        </Box>
      )}
      {missing && <FaultNote what={missing} />}
      {ask && <Asked show={show} walk={walk} />}
    </Box>
  );
}

function Pace({ walk }: { walk: WalkView }) {
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, mt: 1, fontSize: 13, color: ink.soft }}>
      level
      <Typed
        numeric
        width={58}
        label="Level of the walk"
        value={`${Math.round(walk.level * 100)} %`}
        onCommit={async (text) => {
          const level = Number.parseFloat(text.replace(",", "."));
          if (!(level >= 0 && level <= 100)) return "0 to 100 %.";
          return (await change({ level: level / 100 })) ? undefined : "It was not taken.";
        }}
      />
      <span style={{ marginLeft: 8 }}>every</span>
      <Typed
        numeric
        width={76}
        label="Seconds a step"
        value={walk.seconds ? `${walk.seconds} s` : "by hand"}
        onCommit={async (text) => {
          const seconds = /^\s*(by hand)?\s*$/.test(text) ? 0 : Number.parseFloat(text.replace(",", "."));
          if (!(seconds === 0 || (seconds >= 0.05 && seconds <= 3600))) return "0.05 to 3600 s, or by hand.";
          return (await change({ seconds, hold: false })) ? undefined : "It was not taken.";
        }}
      />
    </Box>
  );
}
