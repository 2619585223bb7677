import { Box, ButtonBase } from "@mui/material";
import { memo, useEffect } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, PaneHead } from "../../components/atoms";
import { padTouch } from "../../page/padTouch";
import { StateMark } from "../../page/StateMark";
import { type Item, SAID_OF_SHAPES, shapeOf } from "../../page/shapes";
import { type ItemNow, openPage, usePageNow } from "../../stores/page";
import { ink } from "../../theme/tokens";

const MOST = 9;

/** The pads of the first page as its tablets have them, and what they hold; a press here is a finger there. */
export const PagePart = memo(function PagePart({ show }: { show: WholeShow }) {
  const page = show.pages[0];
  const id = page?.id ?? "";
  useEffect(() => {
    openPage(id, true);
    return () => openPage("");
  }, [id]);
  const open = usePageNow((now) => now.open);
  if (!page) return null;
  const pads = page.items.filter((one) => one.kind === "pad").sort((a, b) => a.y - b.y || a.x - b.x);
  if (!pads.length) return null;
  return (
    <>
      <PaneHead title={`Page: ${page.name}`}>
        <Cap>
          {open === 0
            ? "no tablet has it open"
            : `${open} ${open === 1 ? "tablet has" : "tablets have"} it open`}
        </Cap>
      </PaneHead>
      <Box
        role="group"
        aria-label={`Pads of ${page.name}`}
        sx={{
          mx: 2,
          mb: 2,
          display: "grid",
          gridTemplateColumns: "repeat(3, minmax(0,1fr))",
          gap: "1px",
          background: ink.hair2,
          border: `1px solid ${ink.hair2}`,
          borderRadius: "6px",
          overflow: "hidden",
        }}
      >
        {pads.slice(0, MOST).map((one) => (
          <Pad key={one.id} item={one} />
        ))}
        {Array.from({ length: (3 - (Math.min(pads.length, MOST) % 3)) % 3 }, (_, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: they are nothing but ground
          <span key={n} style={{ background: ink.ground }} />
        ))}
      </Box>
    </>
  );
});

const NOTHING: ItemNow = { on: false, level: 0, said: "", left: "" };

function Pad({ item }: { item: Item }) {
  const now = usePageNow((page) => page.items[item.id]) ?? NOTHING;
  return (
    <ButtonBase
      aria-pressed={now.on}
      title={`${item.words}: ${SAID_OF_SHAPES[shapeOf(item)]}`}
      {...padTouch(item.id)}
      sx={{
        display: "flex",
        flexDirection: "column",
        justifyContent: "space-between",
        alignItems: "stretch",
        gap: 0.25,
        textAlign: "left",
        minWidth: 0,
        px: 1.25,
        py: 0.75,
        background: now.on ? ink.brassGround : ink.ground,
        touchAction: "none",
        "&:hover": { background: ink.row },
        "&:focus-visible": { outline: `2px solid ${ink.brass}`, outlineOffset: "-3px" },
      }}
    >
      <Box
        sx={{
          fontSize: 14,
          lineHeight: "17px",
          fontWeight: 600,
          overflow: "hidden",
          display: "-webkit-box",
          WebkitBoxOrient: "vertical",
          WebkitLineClamp: 2,
          overflowWrap: "anywhere",
        }}
      >
        {item.words}
      </Box>
      <Box
        sx={{
          display: "flex",
          alignItems: "center",
          gap: 0.75,
          fontSize: 13,
          color: now.gone ? ink.coral : ink.soft,
          overflow: "hidden",
          whiteSpace: "nowrap",
        }}
      >
        <StateMark now={now} colour={now.on ? ink.brass : ink.soft} />
        {now.left || now.said}
      </Box>
    </ButtonBase>
  );
}
