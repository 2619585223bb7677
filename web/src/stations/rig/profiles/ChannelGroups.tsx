import { Box } from "@mui/material";
import type { ReactNode } from "react";
import { Cap, Part } from "../../../components/atoms";
import { Choices } from "../../../components/Choices";
import { Typed } from "../../../components/Typed";
import type { Channel } from "./useProfileDraft";

interface GroupProps {
  channel: Channel;
  onChange: (change: Partial<Channel>) => void;
}

const FADES = [
  ["fades", "fades"],
  ["start", "at its start"],
  ["half-way", "half-way"],
  ["end", "at its end"],
] as const;

/** How a channel rests: where it lies by itself, while it is highlighted, and while its fixture is not armed. */
export function Rests({ channel, onChange }: GroupProps) {
  return (
    <Group title="Rests">
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", columnGap: 1 }}>
        <Value label="Home" value={channel.home} onCommit={(home) => onChange({ home: home ?? 0 })} />
        <Value
          label="Highlight"
          optional="usual"
          value={channel.highlight}
          onCommit={(highlight) => onChange({ highlight })}
        />
        <Value label="Safe" optional="none" value={channel.safe} onCommit={(safe) => onChange({ safe })} />
      </Box>
    </Group>
  );
}

interface MovesProps extends GroupProps {
  wide: boolean;
  onWide: (wide: boolean) => void;
}

/** How it moves: in how many bits, which way round, and when in a fade. */
export function Moves({ channel, wide, onWide, onChange }: MovesProps) {
  return (
    <Group title="Moves">
      <Choices
        names={[
          ["8", "8 bit"],
          ["16", "16 bit"],
          ["fine", "fine part"],
        ]}
        chosen={channel.fine ? "fine" : wide ? "16" : "8"}
        onChoose={(bits) =>
          bits === "fine" || channel.fine ? onChange({ fine: bits === "fine" }) : onWide(bits === "16")
        }
      />
      {channel.fine && <Cap>the low byte of the channel with the same attribute</Cap>}
      <Choices
        names={[
          ["as it is", "as it is"],
          ["inverted", "inverted"],
        ]}
        chosen={channel.invert ? "inverted" : "as it is"}
        onChoose={(way) => onChange({ invert: way === "inverted" })}
      />
      <Box sx={{ display: "grid", gap: 0.5 }}>
        <Cap>{channel.in_fade === "fades" ? "in a fade it" : "in a fade it changes at once"}</Cap>
        <Choices
          names={FADES}
          chosen={channel.in_fade ?? "fades"}
          onChoose={(in_fade) => onChange({ in_fade })}
        />
      </Box>
    </Group>
  );
}

/** Who wins where two ask for different values of it. */
export function Wins({ channel, onChange }: GroupProps) {
  return (
    <Group title="Wins">
      <Choices
        names={[
          ["HTP", "highest (HTP)"],
          ["LTP", "latest (LTP)"],
          ["alone", "left alone"],
        ]}
        chosen={channel.alone ? "alone" : (channel.merge ?? "LTP")}
        onChoose={(who) =>
          who === "alone" ? onChange({ alone: true }) : onChange({ alone: false, merge: who })
        }
      />
      {channel.alone && <Cap>nothing of ours drives it</Cap>}
    </Group>
  );
}

/** A group of the channel: what is asked of it, then the answers. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Part
      role="group"
      aria-label={title}
      style={{ display: "grid", gridTemplateColumns: "52px minmax(0,1fr)", columnGap: 12 }}
    >
      <Box sx={{ fontWeight: 600, fontSize: 13, lineHeight: "24px" }}>{title}</Box>
      <Box sx={{ display: "grid", gap: 1, minWidth: 0 }}>{children}</Box>
    </Part>
  );
}

interface ValueProps {
  label: string;
  value: number | null | undefined;
  /** What stands where it has none; without it, it always has one. */
  optional?: string;
  onCommit: (value: number | null) => void;
}

function Value({ label, value, optional, onCommit }: ValueProps) {
  return (
    <Box>
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
          if (!(Number.isInteger(next) && next >= 0 && next <= 255)) return "0 to 255, or percent.";
          return onCommit(next);
        }}
      />
    </Box>
  );
}
