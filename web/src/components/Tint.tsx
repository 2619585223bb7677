import { Box, Button } from "@mui/material";
import { useState } from "react";
import { css, fromHsv, NO_NUMBER, round, typedNumber } from "../model/values";
import { typeHandle } from "../stores/hands";
import { ink } from "../theme/tokens";
import { Cap } from "./atoms";
import { Typed } from "./Typed";

interface TintProps {
  /** Whose pictures are drawn towards one hue. */
  of: string;
  /** Degrees. */
  hue: number;
  /** 0 to 1: 0 changes nothing. */
  amount: number;
  /** What stands before its two handles. */
  at: string;
}

/** Pictures drawn towards one hue, typed: how much, and which. */
export function Tint({ of, hue, amount, at }: TintProps) {
  const [open, setOpen] = useState(false);
  if (!open && amount === 0)
    return (
      <Button
        variant="text"
        aria-label={`Tint ${of}`}
        title="Draws its pictures towards one hue"
        sx={{ color: ink.soft, px: 0.75, py: 0 }}
        onClick={() => setOpen(true)}
      >
        Tint
      </Button>
    );
  const number = (label: string, text: string, set: (value: number) => unknown) => (
    <Typed
      quiet
      numeric
      width={58}
      label={`${label} of ${of}`}
      value={text}
      onCommit={(typed) => {
        const value = typedNumber(typed);
        return value === null ? NO_NUMBER : set(value);
      }}
    />
  );
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
      <Cap title="Its pictures drawn towards one hue; 0 % changes nothing">tint</Cap>
      {number("Tint", `${round(amount * 100, 0)} %`, (value) => typeHandle(`${at}tint_amount`, value / 100))}
      <Cap>to</Cap>
      <Box
        component="i"
        aria-hidden
        sx={{
          width: 12,
          height: 12,
          borderRadius: "6px",
          background: css(fromHsv(hue, 1, 1)),
          opacity: amount > 0 ? 1 : 0.35,
        }}
      />
      {number("Hue of the tint", `${round(hue, 0)}°`, (value) => typeHandle(`${at}tint_hue`, value))}
    </Box>
  );
}
