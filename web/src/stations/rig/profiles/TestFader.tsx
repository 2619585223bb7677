import { useEffect } from "react";
import type { WholeShow } from "../../../api/client";
import { Cap, Part } from "../../../components/atoms";
import { Fader } from "../../../components/Fader";
import { channelRuns, runPosition } from "../../../model/channels";
import { addressOf } from "../../../model/placements";
import { hold } from "../../../stores/hands";
import { useLive, useSent, watchLevels } from "../../../stores/live";
import type { At } from "./Profiles";
import type { Mode, Whole } from "./useProfileDraft";

interface TestFaderProps {
  show: WholeShow;
  profile: Whole;
  mode: Mode;
  at: At;
  onAt: (at: At) => void;
}

/** Moves the channel on the first fixture of this mode, so that it is seen what it does. */
export function TestFader({ show, profile, mode, at }: TestFaderProps) {
  const fixture = show.fixtures.find(
    (one) => one.profile === profile.id && (one.mode === mode.name || one.mode === mode.was),
  );
  const view = show.profiles.find((one) => one.id === profile.id);
  const run = fixture
    ? channelRuns(fixture, view).find(
        (one) => one.block === at.block && (one.cell === "0") === (at.part === "shared"),
      )
    : undefined;
  const number = run ? run.first + at.index : 0;
  const position = fixture && run ? runPosition(fixture, run) + at.index : Number.POSITIVE_INFINITY;
  const there = Number.isFinite(position);
  const universe = there ? Math.floor(position / 512) + 1 : 0;
  useEffect(() => (universe ? watchLevels(universe) : undefined), [universe]);
  const value = useSent(universe || 1, there ? (position % 512) + 1 : 1);
  const key = `${fixture?.id}/${number}`;
  const held = useLive((live) => live.engine?.state.manual[key] !== undefined);
  return (
    <Part>
      <Cap sx={{ mb: 0.5 }}>
        {fixture && there
          ? `Try it on ${fixture.number} ${fixture.name}, ${addressOf(position)}`
          : "Add a fixture of this mode to try its channels."}
      </Cap>
      {fixture && there && (
        <Fader
          label="Test fader"
          value={value}
          held={held}
          onMove={(next) => hold("manual", { values: { [key]: next } })}
          onRelease={() => hold("manual", { values: { [key]: null } })}
        />
      )}
    </Part>
  );
}
