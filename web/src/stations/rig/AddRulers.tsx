import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { ink, mono } from "../../theme/tokens";

const SLOTS = 512;
/** The universes that something new would lie in: what is there full, what would come dashed. */
export function AddRulers({ rulers }: { rulers: Schemas["AddRuler"][] }) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "repeat(auto-fit, minmax(280px, 1fr))",
        gap: "4px 24px",
        mt: 1,
      }}
    >
      {rulers.map((one) => (
        <Box
          key={one.universe}
          role="img"
          aria-label={`U${one.universe}: ${one.coming.length} would come, ${one.free} channels stay free`}
          sx={{
            display: "grid",
            gridTemplateColumns: "32px minmax(0,1fr) 58px",
            gap: 1,
            alignItems: "center",
          }}
        >
          <Num style={{ fontSize: 12.5 }}>U{one.universe}</Num>
          <Box sx={{ position: "relative", height: 17, border: `1px solid ${ink.hair2}` }}>
            {one.taken.map((run) => (
              <Run key={run.first} run={run} />
            ))}
            {one.coming.map((run) => (
              <Run key={run.first} run={run} dashed />
            ))}
          </Box>
          <Cap sx={{ textAlign: "right" }}>{one.free} free</Cap>
        </Box>
      ))}
    </Box>
  );
}

function Run({ run: { first, last, numbers }, dashed }: { run: Schemas["AddRun"]; dashed?: boolean }) {
  const share = (last - first + 1) / SLOTS;
  return (
    <Box
      title={`${numbers}: ${first} to ${last}`}
      sx={{
        position: "absolute",
        top: 0,
        bottom: 0,
        left: `${((first - 1) / SLOTS) * 100}%`,
        width: `${share * 100}%`,
        background: dashed ? "none" : ink.row,
        border: `1px ${dashed ? `dashed ${ink.brass}` : `solid ${ink.hair2}`}`,
        font: `500 11px/15px ${mono}`,
        color: dashed ? ink.brass : ink.text,
        textAlign: "center",
        overflow: "hidden",
        whiteSpace: "nowrap",
        containerType: "inline-size",
      }}
    >
      {/* A run that has no room for its numbers numbers them under the pointer. */}
      <Box
        component="span"
        sx={{ [`@container (max-width: ${7 * numbers.length + 2}px)`]: { display: "none" } }}
      >
        {numbers}
      </Box>
    </Box>
  );
}
