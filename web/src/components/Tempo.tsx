import { Box, ButtonBase } from "@mui/material";
import { useEffect, useRef } from "react";
import { eachFrame, say } from "../canvas/eachFrame";
import { OLD_MS } from "../stores/age";
import { act } from "../stores/hands";
import { useLive } from "../stores/live";
import { ink, mono } from "../theme/tokens";
import { KeyCap } from "./atoms";
import { TempoField } from "./TempoField";

/** Tempo, typed or tapped, and the beat of the bar. */
export function Tempo() {
  const state = useLive((live) => live.engine?.state);
  const beat = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const draw = () => {
      const { engine, engineAt } = useLive.getState();
      if (!engine || !beat.current) return;
      const age = performance.now() - engineAt;
      if (age > OLD_MS) {
        say(beat.current, "–");
        return;
      }
      const since = engine.state.held ? 0 : age / 60_000;
      const now = Math.floor(engine.state.beat + since * engine.state.bpm) % 4;
      say(beat.current, String(((now + 4) % 4) + 1));
    };
    return eachFrame(draw);
  }, []);
  if (!state) return null;
  return (
    <Box
      sx={{
        ml: "auto",
        width: 92,
        textAlign: "center",
        "& input": { fontSize: 20, textAlign: "center", fontFamily: mono },
      }}
    >
      <TempoField bpm={state.bpm} label="Tempo, beats a minute" />
      <ButtonBase
        title="Tap the beat"
        onClick={() => act("tap", performance.now())}
        sx={{
          fontSize: 12,
          color: ink.soft,
          gap: 0.75,
          px: 1,
          py: 0.25,
          borderRadius: 1,
          whiteSpace: "nowrap",
        }}
      >
        <span>
          beat <span ref={beat}>1</span>/4
        </span>
        <KeyCap>T</KeyCap>
      </ButtonBase>
    </Box>
  );
}
