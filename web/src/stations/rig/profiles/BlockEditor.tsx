import { Box, Button } from "@mui/material";
import type { ReactNode } from "react";
import { Cap, Chip, Num } from "../../../components/atoms";
import { Choices } from "../../../components/Choices";
import { Typed } from "../../../components/Typed";
import { firstNumbers } from "../../../model/profiles";
import { ink } from "../../../theme/tokens";
import { blankChannel } from "./blank";
import { CellMap } from "./CellMap";
import { ChannelRow } from "./ChannelRow";
import type { At } from "./Profiles";
import type { Block, Channel, Mode } from "./useProfileDraft";

interface BlockProps {
  block: Block;
  place: number;
  mode: Mode;
  /** The channel being edited, where it is of this block. */
  at: At | null;
  onAt: (part: At["part"], channel: number) => void;
  onChange: (next: Partial<Block>) => void;
  onRemove: () => void;
}

const LAYOUTS = [
  ["line", "in a line"],
  ["upright", "upright"],
  ["grid", "in a grid"],
  ["ring", "in a ring"],
  ["free", "free"],
] as const;

/** One block: its place, its shared channels, its cells and theirs, each as a ruler of channels. */
export function BlockEditor({ block, place, mode, at, onAt, onChange, onRemove }: BlockProps) {
  const first = firstNumbers(mode.blocks, place);
  const length = block.shared.length + block.cell_count * block.cell_channels.length;
  const setCells = (text: string) => {
    const count = Number(text);
    if (!Number.isInteger(count) || count < 0 || count > 20_000) return "A block has 0 to 20000 cells.";
    const channels = block.cell_channels.length ? block.cell_channels : RGB;
    onChange({
      cell_count: count,
      cell_channels: count ? channels : [],
      cell_names: block.cell_names.slice(0, count),
    });
  };
  return (
    <Box
      role="group"
      aria-label={`Block ${block.name}`}
      sx={{ borderTop: `1px solid ${ink.hair}`, pt: 1.25, pb: 1.5, display: "grid", gap: 1 }}
    >
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
        <Typed
          width={112}
          label={`Name of block ${place + 1}`}
          value={block.name}
          onCommit={(name) => (name.trim() ? onChange({ name: name.trim() }) : "A block has a name.")}
        />
        <Cap>
          <Num>{length}</Num> ch from <Num>{first.shared}</Num>
        </Cap>
        {place > 0 && (
          <Typed
            width={116}
            label={`Where ${block.name} lies`}
            value={block.lies === "after" ? `after ${mode.blocks[place - 1]?.name}` : block.lies}
            placeholder="nowhere"
            onCommit={(lies) => onChange({ lies })}
          />
        )}
        <Toggle
          on={block.runs_on}
          onToggle={(runs_on) => onChange(runs_on ? { runs_on } : { runs_on, splits: false })}
          label={`${block.name} runs on`}
        >
          {block.runs_on ? "runs on" : "one universe"}
        </Toggle>
        {block.runs_on && (
          <Toggle
            on={block.splits}
            onToggle={(splits) => onChange({ splits })}
            label={`${block.name} splits pixels`}
          >
            {block.splits ? "pixels split" : "pixels whole"}
          </Toggle>
        )}
        {mode.blocks.length > 1 && (
          <Button
            sx={{ ml: "auto" }}
            variant="text"
            aria-label={`Remove block ${block.name}`}
            onClick={onRemove}
          >
            Remove
          </Button>
        )}
      </Box>
      <Line title="Shared">
        <ChannelRow
          label={`Shared channels of ${block.name}`}
          channels={block.shared}
          first={first.shared}
          chosen={at?.part === "shared" ? at.index : -1}
          onChoose={(index) => onAt("shared", index)}
          onChange={(shared) => onChange({ shared })}
        />
      </Line>
      <Line title="Cells">
        <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
          <Typed
            numeric
            width={64}
            label={`Cells of ${block.name}`}
            value={String(block.cell_count)}
            onCommit={setCells}
          />
          {block.cell_count > 0 && (
            <>
              <Choices
                names={LAYOUTS}
                chosen={block.layout.kind}
                onChoose={(kind) => onChange({ layout: { ...block.layout, kind } })}
              />
              {block.layout.kind === "grid" && (
                <Typed
                  numeric
                  width={52}
                  label={`Columns of ${block.name}`}
                  value={String(block.layout.columns)}
                  onCommit={(text) =>
                    Number(text) >= 1 && Number(text) <= 1000
                      ? onChange({ layout: { ...block.layout, columns: Math.round(Number(text)) } })
                      : "A grid has 1 to 1000 columns."
                  }
                />
              )}
              {block.layout.kind === "ring" && (
                <Toggle
                  on={block.layout.centre}
                  onToggle={(centre) => onChange({ layout: { ...block.layout, centre } })}
                  label="First cell in the middle"
                >
                  {block.layout.centre ? "first in the middle" : "all around"}
                </Toggle>
              )}
              <Toggle
                on={block.hides}
                onToggle={(hides) => onChange({ hides })}
                label="Pixels hide the background"
              >
                {block.hides ? "pixels hide its background" : "no background to hide"}
              </Toggle>
            </>
          )}
        </Box>
        {block.cell_count > 0 && (
          <>
            <ChannelRow
              label={`Channels of a cell of ${block.name}`}
              channels={block.cell_channels}
              first={first.cells}
              times={block.cell_count}
              chosen={at?.part === "cell" ? at.index : -1}
              onChoose={(index) => onAt("cell", index)}
              onChange={(cell_channels) => onChange({ cell_channels })}
            />
            <CellMap block={block} onChange={onChange} />
          </>
        )}
      </Line>
    </Box>
  );
}

const RGB: Channel[] = ["ColorAdd_R", "ColorAdd_G", "ColorAdd_B"].map(blankChannel);

function Line({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "52px 1fr", gap: 1 }}>
      <Cap sx={{ lineHeight: "30px" }}>{title}</Cap>
      <Box sx={{ display: "grid", gap: 1, minWidth: 0 }}>{children}</Box>
    </Box>
  );
}

interface ToggleProps {
  on: boolean;
  onToggle: (on: boolean) => void;
  label: string;
  children: ReactNode;
}

/** A chip for yes or no; its words say which it is. */
export function Toggle({ on, onToggle, label, children }: ToggleProps) {
  return (
    <Chip active={on} aria-pressed={on} aria-label={label} onClick={() => onToggle(!on)}>
      {children}
    </Chip>
  );
}
