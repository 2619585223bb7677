import { Box, Button, MenuItem, Select } from "@mui/material";
import type { OutputView, Schemas } from "../../api/client";
import { Typed } from "../../components/Typed";
import { ink } from "../../theme/tokens";
import { CardSelect } from "./CardSelect";

export type OutputPatch = Schemas["OutputPatch"];

const LINE = {
  display: "flex",
  alignItems: "center",
  gap: 0.75,
  rowGap: 0.5,
  flexWrap: "wrap",
  fontSize: 13,
  mt: 0.5,
} as const;

interface SettingsProps {
  output: OutputView;
  /** Stores at once; what it answers says what was wrong. */
  patch: (body: OutputPatch) => Promise<string>;
}

/** All settings of one output, as a sentence with fields. */
export function OutputSettings({ output, patch }: SettingsProps) {
  const whole = (field: keyof OutputPatch) => (text: string) =>
    /^\d+$/.test(text.trim()) ? patch({ [field]: Number(text) }) : "Type a whole number.";
  const last = output.first_universe + output.count - 1;
  const modes = output.protocol === "sacn" ? ["multicast", "unicast"] : ["unicast", "broadcast"];
  return (
    <Box sx={{ pb: 0.5, "& .MuiSelect-select": { py: 0.25, fontSize: 13 } }}>
      <Box sx={LINE}>
        <Typed
          numeric
          width={52}
          label="First universe"
          value={String(output.first_universe)}
          onCommit={whole("first_universe")}
        />
        to U{last}, that is
        <Typed
          numeric
          width={48}
          label="How many universes"
          value={String(output.count)}
          onCommit={whole("count")}
        />
        by
        <Select
          variant="standard"
          value={output.protocol}
          inputProps={{ "aria-label": "Protocol" }}
          onChange={(event) =>
            patch(
              event.target.value === "sacn"
                ? { protocol: "sacn", mode: "multicast", first_number: output.first_universe }
                : { protocol: "artnet", mode: "broadcast", first_number: output.first_universe - 1 },
            )
          }
        >
          <MenuItem value="artnet">Art-Net</MenuItem>
          <MenuItem value="sacn">sACN</MenuItem>
        </Select>
      </Box>
      <Box sx={LINE}>
        <Select
          variant="standard"
          value={output.mode}
          inputProps={{ "aria-label": "Mode" }}
          onChange={(event) =>
            patch({ mode: event.target.value as "unicast", destination: output.destination || "127.0.0.1" })
          }
        >
          {modes.map((mode) => (
            <MenuItem key={mode} value={mode}>
              {mode}
            </MenuItem>
          ))}
        </Select>
        {output.mode === "unicast" && (
          <Typed
            numeric
            width={Math.min(300, Math.max(132, output.destination.length * 8 + 16))}
            label="Destination"
            value={output.destination}
            onCommit={(destination) => patch({ destination })}
          />
        )}
        from
        <CardSelect value={output.card} onChange={(card) => patch({ card })} />
      </Box>
      <Box sx={LINE}>
        <span style={{ whiteSpace: "nowrap" }}>numbered from</span>
        <Typed
          numeric
          width={60}
          label="First number"
          value={String(output.first_number)}
          onCommit={whole("first_number")}
        />
        {output.protocol === "sacn" && (
          <>
            priority
            <Typed
              numeric
              width={48}
              label="Priority"
              value={String(output.priority)}
              onCommit={whole("priority")}
            />
          </>
        )}
      </Box>
      <Box sx={LINE}>
        <Typed
          numeric
          width={40}
          label="Frames a second"
          value={String(output.rate_hz)}
          onCommit={whole("rate_hz")}
        />
        <span>frames a second,</span>
        {output.protocol === "sacn" ? (
          <>
            synchronised by universe
            <Typed
              numeric
              width={60}
              label="Synchronisation universe"
              value={output.sync ? String(output.sync) : "none"}
              onCommit={(text) => {
                if (/^\s*(none)?\s*$/i.test(text)) return patch({ sync: 0 });
                return /^\d+$/.test(text.trim())
                  ? patch({ sync: Number(text) })
                  : "Type a universe that carries nothing else, or none.";
              }}
            />
          </>
        ) : (
          <Button
            size="small"
            aria-pressed={output.sync > 0}
            title="Every node holds its frame until the ArtSync that follows the last packet"
            onClick={() => patch({ sync: output.sync ? 0 : 1 })}
            sx={{ minWidth: 0, color: output.sync ? ink.sea : ink.soft }}
          >
            {output.sync ? "ArtSync after each" : "no ArtSync"}
          </Button>
        )}
      </Box>
      <Box sx={LINE}>
        when it ends
        <Select
          variant="standard"
          value={output.when_ends}
          inputProps={{ "aria-label": "When it ends" }}
          onChange={(event) => patch({ when_ends: event.target.value as "dark" })}
        >
          <MenuItem value="dark">its lamps go dark</MenuItem>
          <MenuItem value="as it is">they stay as they are, lasers safe</MenuItem>
        </Select>
      </Box>
    </Box>
  );
}
