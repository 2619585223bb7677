import { Box } from "@mui/material";
import type { ReactNode } from "react";
import type { WholeShow } from "../../../api/client";
import { Cap, Empty, Num, Part, Scroll } from "../../../components/atoms";
import { Typed } from "../../../components/Typed";
import { firstNumbers } from "../../../model/profiles";
import { mono } from "../../../theme/tokens";
import { AttributeField } from "./AttributeField";
import { Group, Moves, Rests, Wins } from "./ChannelGroups";
import type { At } from "./Profiles";
import { RangesEditor } from "./RangesEditor";
import { TestFader } from "./TestFader";
import { useAttributes } from "./useAttributes";
import { type Channel, type Whole, withBlock } from "./useProfileDraft";

interface ChannelEditorProps {
  show: WholeShow;
  profile: Whole;
  at: At;
  onAt: (at: At) => void;
  onChange: (next: Whole) => void;
}

const WHITES = ["ColorAdd_W", "ColorAdd_WW", "ColorAdd_CW"];

/** One channel of the mode: how it rests, how it moves, who wins, what it means. */
export function ChannelEditor({ show, profile, at, onAt, onChange }: ChannelEditorProps) {
  const { wordOf } = useAttributes();
  const mode = profile.modes[Math.min(at.mode, profile.modes.length - 1)];
  const block = mode?.blocks[at.block];
  const field = at.part === "shared" ? "shared" : "cell_channels";
  const channels = block?.[field] ?? [];
  const channel = channels[at.index];
  if (!mode || !block || !channel)
    return <Empty title="No channel chosen">Click a channel of the ruler. + adds one.</Empty>;
  const numbers = firstNumbers(mode.blocks, at.block);
  const number = (at.part === "shared" ? numbers.shared : numbers.cells) + at.index;
  const store = (next: Channel[]) => onChange(withBlock(profile, at.mode, at.block, { [field]: next }));
  const set = (change: Partial<Channel>) =>
    store(channels.map((one, index) => (index === at.index ? { ...one, ...change } : one)));
  const fineAt = channels.findIndex((one) => one.fine && one.attribute === channel.attribute);
  const setWide = (wide: boolean) => {
    if (!wide) return store(channels.filter((_, index) => index !== fineAt));
    const next = [...channels];
    next.splice(at.index + 1, 0, { ...channel, fine: true, ranges: [], home: 0, safe: channel.safe });
    store(next);
  };
  return (
    <Scroll>
      <Box sx={{ px: 2, pt: 1.5, pb: 1 }}>
        <Box sx={{ display: "flex", alignItems: "baseline", gap: 1 }}>
          <Box sx={{ font: `600 20px ${mono}` }}>{number}</Box>
          <Box sx={{ fontSize: 16, fontWeight: 600 }}>
            {wordOf(channel.attribute)}
            {channel.fine ? ", fine" : ""}
          </Box>
          <Cap sx={{ ml: "auto" }}>{at.part === "shared" ? "shared" : "in each cell"}</Cap>
        </Box>
      </Box>
      <Rests channel={channel} onChange={set} />
      <Moves channel={channel} wide={fineAt >= 0} onWide={setWide} onChange={set} />
      <Wins channel={channel} onChange={set} />
      <Group title="Means">
        <AttributeField value={channel.attribute} onChange={(attribute) => set({ attribute })} />
        {WHITES.includes(channel.attribute) && (
          <Labelled label="Its white">
            <Typed
              numeric
              width={90}
              label="Kelvin"
              value={`${channel.kelvin} K`}
              onCommit={(text) => {
                const kelvin = Number.parseInt(text, 10);
                if (!(kelvin >= 1667 && kelvin <= 25000)) return "1667 to 25000 K.";
                return set({ kelvin });
              }}
            />
          </Labelled>
        )}
        <Labelled label="0 and full are">
          <Typed
            numeric
            label="Physical range"
            value={channel.physical ? `${channel.physical[0]} to ${channel.physical[1]}` : ""}
            placeholder={/^(Pan|Tilt)$/.test(channel.attribute) ? "-270 to 270 degrees" : "not measured"}
            onCommit={(text) => {
              if (!text.trim()) return set({ physical: null });
              const match = /^\s*(-?[\d.]+)\s*(?:to|\.\.)\s*(-?[\d.]+)/.exec(text);
              if (!match) return "Two numbers, such as -270 to 270.";
              return set({ physical: [Number(match[1]), Number(match[2])] });
            }}
          />
        </Labelled>
      </Group>
      {!channel.fine && <RangesEditor channel={channel} onChange={(ranges) => set({ ranges })} />}
      <TestFader show={show} profile={profile} mode={mode} at={at} onAt={onAt} />
      <Part>
        <Cap>
          <Num>Delete</Num> on a channel of the ruler removes it, <Num>Alt</Num> with an arrow moves it.
        </Cap>
      </Part>
    </Scroll>
  );
}

function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "88px 1fr", alignItems: "center" }}>
      <Cap>{label}</Cap>
      {children}
    </Box>
  );
}
