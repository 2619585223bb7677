import { Box, Button } from "@mui/material";
import { Cap, Chip, Num } from "../../../components/atoms";
import { Typed } from "../../../components/Typed";
import { freeName } from "../../../model/names";
import { ink } from "../../../theme/tokens";
import { BlockEditor } from "./BlockEditor";
import { blankBlock } from "./blank";
import type { At } from "./Profiles";
import { type Mode, type Whole, withBlock, withMode } from "./useProfileDraft";

interface ModesProps {
  profile: Whole;
  at: At;
  onAt: (at: At) => void;
  onChange: (next: Whole) => void;
}

const lengthOf = (mode: Mode): number =>
  mode.blocks.reduce((sum, one) => sum + one.shared.length + one.cell_count * one.cell_channels.length, 0);

/** The modes, and the blocks of the one at hand. */
export function ProfileModes({ profile, at, onAt, onChange }: ModesProps) {
  const number = Math.min(at.mode, profile.modes.length - 1);
  const mode = profile.modes[number];
  if (!mode) return null;
  const add = () => {
    const name = freeName(
      `${mode.name} copy`,
      profile.modes.map((one) => one.name),
    );
    onChange({ ...profile, modes: [...profile.modes, { ...structuredClone(mode), name, was: "" }] });
    onAt({ ...at, mode: profile.modes.length });
  };
  const remove = () => {
    onChange({ ...profile, modes: profile.modes.filter((_, index) => index !== number) });
    onAt({ mode: 0, block: 0, part: "shared", index: 0 });
  };
  const addBlock = () => {
    const taken = mode.blocks.map((one) => one.name);
    onChange(withMode(profile, number, { blocks: [...mode.blocks, blankBlock(freeName("Block", taken))] }));
  };
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}`, px: 2, py: 1.5 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, flexWrap: "wrap", mb: 1.25 }}>
        <Box sx={{ fontWeight: 600, mr: 0.75 }}>Modes</Box>
        {profile.modes.map((one, index) => (
          <Chip
            // biome-ignore lint/suspicious/noArrayIndexKey: a mode is its place while its name is typed
            key={index}
            active={index === number}
            aria-pressed={index === number}
            onClick={() => onAt({ mode: index, block: 0, part: "shared", index: 0 })}
          >
            {one.name} <Num>{lengthOf(one)}</Num>
          </Chip>
        ))}
        <Button onClick={add}>Add</Button>
      </Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "52px 1fr 62px 1fr auto",
          gap: 1,
          alignItems: "center",
          mb: 1.5,
        }}
      >
        <Cap>Mode</Cap>
        <Typed
          label="Name of the mode"
          value={mode.name}
          onCommit={(name) => onChange(withMode(profile, number, { name: name.trim() }))}
        />
        <Cap>Firmware</Cap>
        <Typed
          label="Firmware it fits"
          value={mode.firmware}
          placeholder="1.4 and newer"
          onCommit={(firmware) => onChange(withMode(profile, number, { firmware }))}
        />
        <Button color="error" disabled={profile.modes.length < 2} onClick={remove}>
          Delete mode
        </Button>
      </Box>
      {mode.blocks.map((block, index) => (
        <BlockEditor
          // biome-ignore lint/suspicious/noArrayIndexKey: a block is its place while its name is typed
          key={index}
          block={block}
          place={index}
          mode={mode}
          at={at.block === index ? at : null}
          onAt={(part, channel) => onAt({ mode: number, block: index, part, index: channel })}
          onChange={(next) => onChange(withBlock(profile, number, index, next))}
          onRemove={() =>
            onChange(withMode(profile, number, { blocks: mode.blocks.filter((_, n) => n !== index) }))
          }
        />
      ))}
      <Button onClick={addBlock} disabled={mode.blocks.length >= 8}>
        Add a block
      </Button>
    </Box>
  );
}
