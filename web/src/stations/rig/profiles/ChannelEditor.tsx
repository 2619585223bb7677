import { Box } from "@mui/material";
import type { ReactNode } from "react";
import type { WholeShow } from "../../../api/client";
import { Cap, Empty, Num, Part, Scroll } from "../../../components/atoms";
import { Choices } from "../../../components/Choices";
import { Typed } from "../../../components/Typed";
import { firstNumbers } from "../../../model/profiles";
import { mono } from "../../../theme/tokens";
import { AttributeField } from "./AttributeField";
import { Toggle } from "./BlockEditor";
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

/** One channel of the mode: what it is, how it rests, what its values mean. */
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
          <Cap sx={{ ml: "auto" }}>{at.part === "shared" ? "shared" : `in each cell`}</Cap>
        </Box>
        <AttributeField value={channel.attribute} onChange={(attribute) => set({ attribute })} />
        <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", mt: 1 }}>
          {channel.fine ? (
            <Cap>the low byte of the channel with the same attribute</Cap>
          ) : (
            <Choices
              names={[
                ["8", "8 bit"],
                ["16", "16 bit"],
              ]}
              chosen={fineAt >= 0 ? "16" : "8"}
              onChoose={(bits) => setWide(bits === "16")}
            />
          )}
          <Toggle on={channel.fine} onToggle={(fine) => set({ fine })} label="Is a fine channel">
            {channel.fine ? "fine channel" : "coarse"}
          </Toggle>
          <Toggle on={channel.invert} onToggle={(invert) => set({ invert })} label="Inverted">
            {channel.invert ? "inverted" : "not inverted"}
          </Toggle>
          <Toggle on={channel.snap} onToggle={(snap) => set({ snap })} label="Snaps">
            {channel.snap ? "snaps" : "fades"}
          </Toggle>
          <Choices
            names={[
              ["HTP", "HTP"],
              ["LTP", "LTP"],
            ]}
            chosen={channel.merge}
            onChoose={(merge) => set({ merge })}
          />
          <Toggle on={channel.alone} onToggle={(alone) => set({ alone })} label="Left alone">
            {channel.alone ? "left alone" : "driven by us"}
          </Toggle>
        </Box>
      </Box>
      <Part>
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 2, rowGap: 0.75 }}>
          <Value label="Home" value={channel.home} onCommit={(home) => set({ home: home ?? 0 })} />
          <Value
            label="Highlight"
            optional="usual"
            value={channel.highlight}
            onCommit={(highlight) => set({ highlight })}
          />
          <Value label="Safe" optional="none" value={channel.safe} onCommit={(safe) => set({ safe })} />
          <Value
            label="Step"
            value={channel.step}
            minimum={1}
            onCommit={(step) => set({ step: step ?? 1 })}
          />
        </Box>
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
            width={150}
            label="Physical range"
            value={channel.physical ? `${channel.physical[0]} to ${channel.physical[1]}` : ""}
            placeholder={/^(Pan|Tilt)$/.test(channel.attribute) ? "-270 to 270 degrees" : "nothing measured"}
            onCommit={(text) => {
              if (!text.trim()) return set({ physical: null });
              const match = /^\s*(-?[\d.]+)\s*(?:to|\.\.)\s*(-?[\d.]+)/.exec(text);
              if (!match) return "Two numbers, such as -270 to 270.";
              return set({ physical: [Number(match[1]), Number(match[2])] });
            }}
          />
        </Labelled>
      </Part>
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
    <Box sx={{ display: "grid", gridTemplateColumns: "96px 1fr", alignItems: "center", mt: 0.75 }}>
      <Cap>{label}</Cap>
      {children}
    </Box>
  );
}

interface ValueProps {
  label: string;
  value: number | null | undefined;
  /** What stands where it has none; without it, it always has one. */
  optional?: string;
  minimum?: number;
  onCommit: (value: number | null) => void;
}

function Value({ label, value, optional, minimum = 0, onCommit }: ValueProps) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "64px 1fr", alignItems: "center" }}>
      <Cap>{label}</Cap>
      <Typed
        numeric
        label={label}
        value={value === null || value === undefined ? "" : String(value)}
        placeholder={optional}
        onCommit={(text) => {
          if (!text.trim() && optional) return onCommit(null);
          const percent = text.trim().endsWith("%");
          const typed = Number.parseFloat(text);
          const next = percent ? Math.floor((typed * 255) / 100 + 0.5) : typed;
          if (!(Number.isInteger(next) && next >= minimum && next <= 255))
            return `${minimum} to 255, or percent.`;
          return onCommit(next);
        }}
      />
    </Box>
  );
}
