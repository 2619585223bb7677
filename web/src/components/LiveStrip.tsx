import { Box, Button } from "@mui/material";
import { useState } from "react";
import { useShow } from "../api/show";
import { clamp, toByte, toPercent } from "../model/values";
import { useAge } from "../stores/age";
import { move } from "../stores/hands";
import { useLive } from "../stores/live";
import { press } from "../stores/urgent";
import { ink } from "../theme/tokens";
import { Cap, KeyCap, Num } from "./atoms";
import { Lasers } from "./Lasers";
import { Range } from "./Range";
import { Tempo } from "./Tempo";
import { Thumbnails } from "./Thumbnails";
import { Typed } from "./Typed";

/** Always at the foot: what is really being sent, and the few things that act at once. */
export function LiveStrip() {
  return (
    <Box
      component="footer"
      sx={{
        borderTop: `1px solid ${ink.hair}`,
        display: "grid",
        gridTemplateColumns: "clamp(300px, 28.6vw, 420px) minmax(0,1fr) clamp(324px, 27.5vw, 420px)",
        background: `linear-gradient(${ink.panel}, ${ink.ground})`,
        "& > div": { px: 2, py: 1, display: "flex", gap: 1.75, alignItems: "center", minWidth: 0 },
        "@media (max-width: 1220px)": { "& > div": { gap: 1, px: 1.25 } },
        "& > div + div": { borderLeft: `1px solid ${ink.hair}` },
      }}
    >
      <Power />
      <Thumbnails />
      <Health />
    </Box>
  );
}

/** Keeps its words whole; in a narrow window its sides give way first. */
const STIFF = {
  flex: "none",
  whiteSpace: "nowrap",
  minWidth: 0,
  "@media (max-width: 1220px)": { px: 0.75 },
} as const;

function Power() {
  const state = useLive((live) => live.engine?.state);
  const parked = useShow().data?.parked.length ?? 0;
  return (
    <div>
      <Lasers />
      <Button
        sx={STIFF}
        color="error"
        variant={state?.blackout ? "contained" : "outlined"}
        aria-pressed={state?.blackout ?? false}
        onClick={() => press("blackout")}
      >
        <Box component="span" sx={{ display: "grid", lineHeight: 1.25 }}>
          <span>
            {state?.blackout ? "Black" : "Blackout"}{" "}
            <KeyCap sx={{ color: "inherit", borderColor: "currentcolor" }}>B</KeyCap>
          </span>
          {state?.blackout && parked > 0 && (
            <span style={{ fontSize: 11.5, fontWeight: 400 }}>
              {parked === 1 ? "1 parked stays" : `${parked} parked stay`}
            </span>
          )}
        </Box>
      </Button>
      <Button
        sx={STIFF}
        variant={state?.freeze ? "contained" : "outlined"}
        color={state?.freeze ? "primary" : "inherit"}
        aria-pressed={state?.freeze ?? false}
        onClick={() => press("freeze")}
      >
        {state?.freeze ? "Frozen" : "Freeze"}
      </Button>
      <Master level={state?.master ?? 1} />
    </div>
  );
}

function Master({ level }: { level: number }) {
  const [moving, setMoving] = useState<number | null>(null);
  const shown = moving ?? level;
  const set = (value: number) => move("master", clamp(value, 0, 1));
  return (
    <Box sx={{ flex: 1, minWidth: 84 }}>
      <Box
        sx={{
          display: "flex",
          alignItems: "center",
          justifyContent: "space-between",
          fontSize: 12,
          gap: 0.5,
        }}
      >
        <Box sx={{ color: ink.soft }}>Master</Box>
        <Box
          title={`${toByte(shown)} of 255`}
          sx={{ width: 46, flex: "none", "& input": { textAlign: "right", px: 0 } }}
        >
          <Typed
            quiet
            numeric
            label="Grand master, percent"
            value={`${toPercent(shown)} %`}
            onCommit={(text) => {
              const percent = Number.parseFloat(text.replace(",", "."));
              if (!(percent >= 0 && percent <= 100)) return "The master goes from 0 to 100 %.";
              set(percent / 100);
            }}
          />
        </Box>
      </Box>
      <Range
        label="Grand master"
        min={0}
        max={100}
        value={toPercent(shown)}
        onMove={(value) => {
          setMoving(value / 100);
          set(value / 100);
        }}
        onCommit={() => setTimeout(() => setMoving(null), 400)}
      />
    </Box>
  );
}

function Health() {
  const engine = useLive((live) => live.engine);
  const nodes = useLive((live) => live.receiver?.nodes);
  const devices = new Map((nodes ?? []).filter((n) => n.style !== 1).map((n) => [n.ip, n.silent]));
  const alive = [...devices.values()].filter((silent) => !silent).length;
  const stats = engine?.stats ?? {};
  const { state: old } = useAge();
  const universes = engine?.outputs.reduce((sum, output) => sum + output.universes, 0) ?? 0;
  const failing = engine?.outputs.some((output) => output.last_error);
  return (
    <div>
      {engine ? (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: "52px auto",
            columnGap: 1.25,
            rowGap: "3px",
            fontSize: 12.5,
            lineHeight: "17px",
            whiteSpace: "nowrap",
            "& > :nth-of-type(odd)": { textAlign: "right", fontSize: 12 },
          }}
        >
          <Num>{(stats.frames_per_s ?? 0).toFixed(1)}</Num>
          <Box component="span" sx={{ color: ink.soft }}>
            frames/s, {stats.skipped ? `${stats.skipped} skipped` : "none skipped"}
          </Box>
          <Num>{universes}</Num>
          <Box component="span" sx={{ color: failing ? ink.brass : ink.soft }}>
            {old > 0
              ? `universes, ${old} s ago`
              : failing
                ? "universes, sending fails"
                : `universes, ${Math.round(universes * (stats.frames_per_s ?? 0))} packets/s`}
          </Box>
          <Num style={{ color: alive === devices.size ? ink.sea : ink.brass }}>
            {alive} of {devices.size}
          </Num>
          <Box component="span" sx={{ color: ink.soft }}>
            nodes answer
          </Box>
        </Box>
      ) : (
        <Cap>The engine does not answer this page at the moment.</Cap>
      )}
      <Tempo />
    </div>
  );
}
