import { Box, Button } from "@mui/material";
import { memo, useEffect, useRef } from "react";
import { eachFrame, say } from "../../canvas/eachFrame";
import { Cap, Num } from "../../components/atoms";
import { TempoField } from "../../components/TempoField";
import { Typed } from "../../components/Typed";
import { OLD_MS } from "../../stores/age";
import { act, typeText } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { ink, mono } from "../../theme/tokens";

const BEATS = [1, 2, 3, 4];

/** The tempo, large, and the beat of the bar as it is. */
export const BeatPart = memo(function BeatPart() {
  const bpm = useLive((live) => live.engine?.state.bpm);
  const pace = useLive((live) => live.engine?.state.pace) ?? 1;
  const bars = useRef<HTMLDivElement>(null);
  const bar = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let lit: number | null = null;
    const draw = () => {
      const { engine, engineAt } = useLive.getState();
      const age = performance.now() - engineAt;
      if (!engine || !bars.current) return;
      const since = engine.state.held ? 0 : age / 60_000;
      const beat = Math.floor(engine.state.beat + since * engine.state.bpm);
      const here = age > OLD_MS ? -1 : ((beat % 4) + 4) % 4;
      say(bar.current, age > OLD_MS ? "–" : String(Math.floor(beat / 4) + 1));
      if (here === lit) return;
      lit = here;
      [...bars.current.children].forEach((one, n) => {
        (one as HTMLElement).dataset.on = String(n === here);
      });
    };
    return eachFrame(draw);
  }, []);
  if (bpm === undefined) return null;
  const to = (next: number) => act("tempo", next);
  return (
    <Box role="group" aria-label="Tempo" sx={{ px: 2, py: 1.25, borderBottom: `1px solid ${ink.hair}` }}>
      <Box sx={{ display: "flex", alignItems: "baseline" }}>
        <b style={{ fontWeight: 600, marginRight: "auto" }}>Tempo</b>
        <Cap>
          bar <span ref={bar}>1</span>
        </Cap>
      </Box>
      <Box
        sx={{
          display: "flex",
          alignItems: "baseline",
          gap: 0.5,
          "& input": { font: `500 32px ${mono}`, height: 42 },
        }}
      >
        <Box sx={{ width: 132, ml: -0.75 }}>
          <TempoField bpm={bpm} label="Tempo of the show, beats a minute" />
        </Box>
        <Cap>BPM</Cap>
      </Box>
      <Box ref={bars} sx={{ display: "grid", gridTemplateColumns: "repeat(4, 1fr)", gap: 0.5, my: 0.75 }}>
        {BEATS.map((one) => (
          <Box
            key={one}
            sx={{
              height: 22,
              display: "grid",
              placeItems: "center",
              fontSize: 12,
              color: ink.soft,
              borderBottom: `2px solid ${ink.brassSoft}`,
              borderRadius: "2px 2px 0 0",
              "&[data-on=true]": { background: ink.brass, color: ink.ground, borderColor: ink.brass },
            }}
          >
            {one}
          </Box>
        ))}
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 0.75 }}>
        <Pair title="Tap the beat" word="Tap" under="key T" onPress={() => act("tap", performance.now())} />
        <Pair title="Half the tempo" word="Half" under={(bpm / 2).toFixed(1)} onPress={() => to(bpm / 2)} />
        <Pair
          title="Double the tempo"
          word="Double"
          under={(bpm * 2).toFixed(1)}
          onPress={() => to(bpm * 2)}
        />
      </Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 1 }}>
        <Cap sx={{ mr: "auto" }}>pace of everything</Cap>
        <Typed
          numeric
          width={64}
          label="Pace of everything, percent"
          value={`${Math.round(pace * 100)} %`}
          onCommit={(text) => typeText("pace", text, 100)}
        />
      </Box>
    </Box>
  );
});

interface PairProps {
  title: string;
  word: string;
  under: string;
  onPress: () => void;
}

function Pair({ title, word, under, onPress }: PairProps) {
  return (
    <Button
      title={title}
      onClick={onPress}
      sx={{ display: "block", px: 0, py: 0.25, minWidth: 0, lineHeight: "17px" }}
    >
      {word}
      <Num style={{ display: "block", fontSize: 11.5, color: ink.soft }}>{under}</Num>
    </Button>
  );
}
