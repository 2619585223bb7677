import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { FixtureView, ProfileView } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { Fader } from "../../components/Fader";
import { channelRuns, runPosition } from "../../model/channels";
import { addressOf } from "../../model/placements";
import { hold } from "../../stores/hands";
import { useIsSent, useLive, useSent } from "../../stores/live";

interface FadersProps {
  fixture: FixtureView;
  /** All chosen fixtures: those of the same mode follow. */
  chosen: FixtureView[];
  profile: ProfileView | undefined;
}

/** The channels of the fixture by hand: as sent until they are moved, then held until released. */
export function FadersPart({ fixture, chosen, profile }: FadersProps) {
  const runs = channelRuns(fixture, profile);
  const [at, setAt] = useState(0);
  const run = runs[Math.min(at, runs.length - 1)];
  const alike = chosen.filter((one) => one.profile === fixture.profile && one.mode === fixture.mode);
  const held = useLive((live) => live.engine?.state.manual) ?? {};
  if (!run) return null;
  const start = runPosition(fixture, run);
  const set = (channel: number, value: number | null) =>
    hold("manual", {
      values: Object.fromEntries(alike.map((one) => [`${one.id}/${channel}`, value])),
    });
  return (
    <>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
        {runs.length > 1 && (
          <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
            <Button aria-label="Cell before" disabled={at === 0} onClick={() => setAt(at - 1)} sx={{ px: 1 }}>
              ‹
            </Button>
            <Num>{`${fixture.number}:${run.cell}`}</Num>
            <Button
              aria-label="Next cell"
              disabled={at >= runs.length - 1}
              onClick={() => setAt(at + 1)}
              sx={{ px: 1 }}
            >
              ›
            </Button>
          </Box>
        )}
      </Box>
      {run.channels
        .map(({ label }, index) => ({ label, number: run.first + index, position: start + index }))
        .map(({ label, number, position }) => (
          <Row
            key={number}
            label={label}
            number={number}
            position={position}
            held={held[`${fixture.id}/${number}`]}
            onSet={(value) => set(number, value)}
          />
        ))}
      <Cap sx={{ mt: 0.5 }}>
        {alike.length > 1 ? `moves all ${alike.length} chosen; ` : ""}as sent until moved, then above every
        look
      </Cap>
    </>
  );
}

interface RowProps {
  label: string;
  number: number;
  position: number;
  /** What is held by hand, undefined where nothing is. */
  held: number | undefined;
  onSet: (value: number | null) => void;
}

function Row({ label, number, position, held, onSet }: RowProps) {
  const [universe, channel] = addressOf(position).slice(1).split(".").map(Number);
  const live = useSent(universe ?? 1, channel ?? 1);
  // What nobody is sent shows what is held, not a black that is nowhere.
  const value = useIsSent(universe ?? 1) ? live : (held ?? live);
  return (
    <Box
      sx={{ display: "grid", gridTemplateColumns: "102px 1fr", alignItems: "center", gap: 0.75, py: "1px" }}
    >
      <Box sx={{ fontSize: 13, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
        <Num style={{ opacity: 0.6 }}>{number}</Num> {label}
      </Box>
      <Fader
        label={`${number} ${label}`}
        value={value}
        held={held !== undefined}
        onMove={onSet}
        onRelease={() => onSet(null)}
      />
    </Box>
  );
}
