import { Box, type BoxProps, styled } from "@mui/material";
import type { ReactNode } from "react";
import { ink, mono } from "../theme/tokens";

/** Numbers: the mono face, figures of equal width. */
export const Num = styled("span")({
  fontFamily: mono,
  fontSize: ".94em",
  fontVariantNumeric: "tabular-nums",
});

/** Secondary text, 12 px. */
export const Cap = styled("div")({ fontSize: 12, lineHeight: "16px", color: ink.soft });

/** Read aloud, not seen. */
export const Unseen = styled("span")({
  position: "absolute",
  width: 1,
  height: 1,
  overflow: "hidden",
  clipPath: "inset(50%)",
  whiteSpace: "nowrap",
});

/** A key to press, as it is drawn everywhere. */
export const KeyCap = styled("span")({
  font: `500 11.5px ${mono}`,
  border: `1px solid ${ink.hair2}`,
  borderRadius: 3,
  padding: "0 4px",
  lineHeight: "14px",
  color: ink.soft,
  display: "inline-block",
});

/** A column of a station; panes are parted by hairlines. */
export const Pane = styled("section")({
  borderRight: `1px solid ${ink.hair}`,
  minWidth: 0,
  minHeight: 0,
  overflow: "hidden",
  display: "flex",
  flexDirection: "column",
  "&:last-child": { borderRight: 0 },
});

export const Scroll = styled("div")({ overflowY: "auto", minHeight: 0, flex: 1 });

/** The head of a pane: its title left, anything at the right end. */
export function PaneHead({
  title,
  children,
  ...rest
}: { title: ReactNode; children?: ReactNode } & Omit<BoxProps, "title">) {
  return (
    <Box
      {...rest}
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1.25,
        px: 2,
        pt: 1.5,
        pb: 1,
        minHeight: 48,
        ...rest.sx,
      }}
    >
      <Box component="h2" sx={{ m: 0, fontSize: 14, fontWeight: 600, whiteSpace: "nowrap" }}>
        {title}
      </Box>
      <Box sx={{ ml: "auto", display: "flex", alignItems: "center", gap: 1 }}>{children}</Box>
    </Box>
  );
}

/** A part of the detail pane, under a hairline. */
export const Part = styled("div")({ borderTop: `1px solid ${ink.hair}`, padding: "12px 16px" });

/** One of a list with a small picture left of its words; `here`: it is the one at work. */
export const ListCard = styled("button", {
  shouldForwardProp: (name) => name !== "here" && name !== "picture",
})<{ here: boolean; picture: number }>(({ here, picture }) => ({
  display: "grid",
  gridTemplateColumns: `${picture}px 1fr`,
  gap: 10,
  alignItems: "center",
  width: "100%",
  textAlign: "left",
  font: "inherit",
  color: "inherit",
  background: here ? ink.brassGround : "none",
  border: 0,
  borderLeft: `3px solid ${here ? ink.brass : "transparent"}`,
  padding: "7px 8px 7px 14px",
  cursor: "pointer",
  "&:hover": { background: here ? ink.brassGround : ink.row },
}));

/** A line of text that is cut where there is no room. */
export const OneLine = styled("span")({
  display: "block",
  overflow: "hidden",
  textOverflow: "ellipsis",
  whiteSpace: "nowrap",
});

/** A value as a chip; it opens its control in place. */
export const Chip = styled("button", { shouldForwardProp: (name) => name !== "active" })<{
  active?: boolean;
}>(({ active }) => ({
  display: "inline-flex",
  alignItems: "center",
  gap: 6,
  height: 24,
  padding: "0 9px",
  borderRadius: 12,
  background: ink.row,
  border: `1px solid ${active ? ink.brass : ink.hair}`,
  color: active ? ink.brass : ink.text,
  font: "inherit",
  fontSize: 13,
  whiteSpace: "nowrap",
  cursor: "pointer",
  "&:hover": { borderColor: active ? ink.brass : ink.soft },
  "&:disabled": { cursor: "default", opacity: 0.6 },
}));

/** What stands where there is nothing yet: what it is for, and the next step. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Box sx={{ p: 3, maxWidth: 460, color: ink.soft }}>
      <Box sx={{ fontSize: 18, fontWeight: 600, color: ink.text, mb: 0.75 }}>{title}</Box>
      {children}
    </Box>
  );
}

/** A fault beside its cause, with the repair. */
export function FaultNote({ what, repair }: { what: string; repair?: string }) {
  return (
    <Box
      role="alert"
      sx={{ display: "flex", gap: 1, color: ink.brass, fontSize: 13, lineHeight: "18px", py: 0.5 }}
    >
      <svg
        width="15"
        height="15"
        viewBox="0 0 15 15"
        aria-hidden="true"
        style={{ flex: "none", marginTop: 2 }}
      >
        <path d="M7.5 1.5 14 13.5H1Z" fill="none" stroke="currentColor" strokeWidth="1.3" />
        <path d="M7.5 6v3.6M7.5 11v1" stroke="currentColor" strokeWidth="1.3" />
      </svg>
      <span>
        {what} {repair}
      </span>
    </Box>
  );
}

/** A small patch of a colour. */
export function Swatch({ rgb }: { rgb: readonly [number, number, number] | number[] }) {
  return (
    <Box
      component="span"
      sx={{
        width: 12,
        height: 12,
        borderRadius: "3px",
        background: `rgb(${rgb.join(" ")})`,
        border: `1px solid ${ink.hair2}`,
      }}
    />
  );
}
