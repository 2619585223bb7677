import { Box, Button } from "@mui/material";
import { useState } from "react";
import { toPercent } from "../model/values";
import { ink } from "../theme/tokens";
import { Num } from "./atoms";
import { Range } from "./Range";
import { Typed } from "./Typed";

interface FaderProps {
  label: string;
  /** 0..255 as sent. */
  value: number;
  held: boolean;
  onMove: (value: number) => void;
  onRelease: () => void;
}

/** A channel by hand: it shows what is sent until it is moved, then holds its value until it is released. */
export function Fader({ label, value, held, onMove, onRelease }: FaderProps) {
  const [moving, setMoving] = useState<number | null>(null);
  const shown = moving ?? value;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 44px 46px 16px", gap: 0.75, alignItems: "center" }}>
      <Range
        label={label}
        min={0}
        max={255}
        value={shown}
        held={held}
        onMove={(next) => {
          setMoving(next);
          onMove(next);
        }}
        onCommit={() => setTimeout(() => setMoving(null), 300)}
      />
      <Num style={{ color: ink.soft, textAlign: "right", whiteSpace: "nowrap" }}>
        {toPercent(shown / 255)} %
      </Num>
      <Typed
        numeric
        label={`${label}, typed`}
        value={String(shown)}
        onCommit={(text) => {
          const percent = text.trim().endsWith("%");
          const typed = Number.parseFloat(text.replace(",", "."));
          const next = percent ? Math.floor((typed * 255) / 100 + 0.5) : typed;
          if (!(next >= 0 && next <= 255)) return "A channel takes 0 to 255, or 0 to 100 %.";
          onMove(Math.round(next));
        }}
      />
      {held ? (
        <Button
          variant="text"
          aria-label={`Release ${label}`}
          title="Held by hand: release it"
          onClick={onRelease}
          sx={{ px: 0, color: ink.brass }}
        >
          ×
        </Button>
      ) : (
        <span />
      )}
    </Box>
  );
}
