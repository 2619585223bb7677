import { Box } from "@mui/material";
import { Cap } from "../../../components/atoms";
import { letterOf } from "../../../model/channels";
import { ink, mono } from "../../../theme/tokens";
import { blankChannel } from "./blank";
import { useAttributes } from "./useAttributes";
import type { Channel } from "./useProfileDraft";

interface ChannelRowProps {
  label: string;
  channels: Channel[];
  /** Number of the first one within the mode. */
  first: number;
  /** How often the row stands in the mode: once for each cell. */
  times?: number;
  chosen: number;
  onChoose: (index: number) => void;
  onChange: (channels: Channel[]) => void;
}

/** Channels as a ruler: one box each, chosen by click or arrows, moved with Alt and an arrow, removed with Delete. */
export function ChannelRow({
  label,
  channels,
  first,
  times = 1,
  chosen,
  onChoose,
  onChange,
}: ChannelRowProps) {
  const { wordOf } = useAttributes();
  const move = (from: number, to: number) => {
    if (to < 0 || to >= channels.length) return;
    const next = [...channels];
    const [moved] = next.splice(from, 1);
    if (moved) next.splice(to, 0, moved);
    onChange(next);
    onChoose(to);
  };
  const onKey = (event: React.KeyboardEvent, index: number) => {
    const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (step && event.altKey) move(index, index + step);
    else if (step) {
      const next = Math.min(channels.length - 1, Math.max(0, index + step));
      onChoose(next);
      const row = event.currentTarget.parentElement;
      (row?.children[next] as HTMLElement | undefined)?.focus();
    } else if (event.key === "Delete") {
      onChange(channels.filter((_, n) => n !== index));
      onChoose(Math.max(0, index - 1));
    } else return;
    event.preventDefault();
  };
  const add = () => {
    onChange([...channels, blankChannel("Control1")]);
    onChoose(channels.length);
  };
  const last = first + times * channels.length - 1;
  return (
    <Box
      role="listbox"
      aria-label={label}
      sx={{ display: "flex", flexWrap: "wrap", gap: "2px", alignItems: "end" }}
    >
      {channels.map((channel, index) => {
        const word = `${wordOf(channel.attribute)}${channel.fine ? " fine" : ""}`;
        return (
          <Box
            // biome-ignore lint/suspicious/noArrayIndexKey: a channel is its place
            key={index}
            component="button"
            role="option"
            aria-selected={chosen === index}
            aria-label={`Channel ${first + index}, ${word}`}
            title={word}
            onClick={() => onChoose(index)}
            onKeyDown={(event: React.KeyboardEvent) => onKey(event, index)}
            sx={{
              width: 30,
              p: 0,
              border: 0,
              background: "none",
              color: ink.text,
              cursor: "pointer",
              font: `500 12px ${mono}`,
            }}
          >
            <Box
              sx={{
                height: 24,
                lineHeight: "24px",
                background: chosen === index ? ink.brass : ink.row,
                color: chosen === index ? ink.ground : ink.text,
                borderBottom: `2px solid ${channel.safe !== null ? ink.coral : channel.fine ? ink.hair : ink.hair2}`,
              }}
            >
              {letterOf(word, first + index)}
            </Box>
            <Box sx={{ fontSize: 11, lineHeight: "16px", color: ink.soft }}>{first + index}</Box>
          </Box>
        );
      })}
      <Box
        component="button"
        aria-label={`Add to ${label.toLowerCase()}`}
        onClick={add}
        sx={{
          width: 30,
          height: 26,
          mb: "16px",
          border: `1px dashed ${ink.hair2}`,
          background: "none",
          color: ink.soft,
          cursor: "pointer",
          font: `500 14px ${mono}`,
          "&:hover": { color: ink.text, borderColor: ink.soft },
        }}
      >
        +
      </Box>
      {times > 1 && (
        <Cap sx={{ mb: "20px", ml: 1 }}>
          and so on for {times} cells, to {last}
        </Cap>
      )}
    </Box>
  );
}
