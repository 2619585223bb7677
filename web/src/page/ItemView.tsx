import { Box } from "@mui/material";
import { memo, useEffect, useRef } from "react";
import type { WholeShow } from "../api/client";
import { BEAT_MS, beatNow, fade, type ItemNow, usePageNow } from "../stores/page";
import { ink, mono } from "../theme/tokens";
import { Crossfader, Fader } from "./Faders";
import { ItemMark } from "./ItemMark";
import { ListItem } from "./ListItem";
import { padTouch } from "./padTouch";
import { StateMark } from "./StateMark";
import { clipOf, HUES, type Item, SAID_OF_SHAPES, shapeOf } from "./shapes";

interface ItemProps {
  item: Item;
  show: WholeShow;
  /** In the layout nothing is moved by a touch. */
  still?: boolean;
}

const NOTHING: ItemNow = { on: false, level: 0, said: "", left: "" };

/** One item of a page, as it is at this moment. */
export const ItemView = memo(function ItemView({ item, show, still = false }: ItemProps) {
  const now = usePageNow((page) => page.items[item.id]) ?? NOTHING;
  switch (item.kind) {
    case "fader":
      return <Fader item={item} now={now} show={show} onShare={(share) => !still && fade(item.id, share)} />;
    case "crossfader":
      return <Crossfader item={item} now={now} onShare={(share) => !still && fade(item.id, share)} />;
    case "list":
      return <ListItem item={item} now={now} still={still} />;
    case "words":
      return <Words item={item} />;
    default:
      return <Pad item={item} now={now} show={show} still={still} />;
  }
});

function Pad({ item, now, show, still }: Required<ItemProps> & { now: ItemNow }) {
  const shape = item.kind === "tap" ? "plain" : shapeOf(item);
  const clip = clipOf(shape);
  const round = shape === "hold" ? "34px" : clip ? 0 : "8px";
  const hue = HUES[item.hue];
  const lit = now.on || now.level > 0;
  const name = item.kind === "tap" ? item.words || "Tap" : item.words;
  const border = now.gone ? ink.coral : hue;
  const slope = now.said === "coming in" ? 18 : now.said === "going out" ? -18 : 0;
  const top = 100 - now.level * 100;
  return (
    <Box
      component="button"
      aria-label={name}
      aria-pressed={now.on}
      title={item.kind === "tap" ? "Tap the beat" : SAID_OF_SHAPES[shape]}
      data-held={now.held ?? ""}
      {...padTouch(item.id, still)}
      sx={{
        flex: 1,
        minWidth: 0,
        position: "relative",
        p: 0,
        border: 0,
        color: ink.text,
        font: "inherit",
        textAlign: "left",
        touchAction: "none",
        cursor: "pointer",
        background: border,
        borderRadius: round,
        clipPath: clip || undefined,
        outlineOffset: "-4px",
      }}
    >
      <Box
        sx={{
          position: "absolute",
          inset: now.held ? "4px" : "2px",
          borderRadius: round === 0 ? 0 : `calc(${round} - 2px)`,
          clipPath: clip || undefined,
          background: ink.row,
          overflow: "hidden",
        }}
      >
        {lit && (
          <Box
            sx={{
              position: "absolute",
              inset: 0,
              opacity: 0.4,
              background: hue,
              clipPath: `polygon(0 ${top + slope}%, 100% ${top - slope}%, 100% 100%, 0 100%)`,
            }}
          />
        )}
        <Box
          sx={{
            position: "absolute",
            inset: shape === "hold" ? "8px 22px" : "8px 14px",
            display: "flex",
            flexDirection: "column",
            gap: "2px",
            minWidth: 0,
          }}
        >
          <Box
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 1.25,
              minHeight: 0,
              flex: 1,
              overflow: "hidden",
            }}
          >
            {item.h > 1 && <ItemMark item={item} show={show} colour={lit ? ink.text : hue} />}
            {item.kind === "tap" ? <Beats /> : <Left said={now.left} />}
          </Box>
          <Box
            sx={{
              flex: "none",
              fontSize: 21,
              fontWeight: 650,
              lineHeight: "26px",
              overflow: "hidden",
              display: "-webkit-box",
              WebkitBoxOrient: "vertical",
              WebkitLineClamp: item.h > 1 ? 2 : 1,
              "@media (max-width: 600px)": { fontSize: 18, lineHeight: "22px", WebkitLineClamp: 2 },
            }}
          >
            {name}
          </Box>
          <Line
            sx={{
              fontSize: 14.5,
              color: now.gone ? ink.coral : lit ? ink.text : ink.soft,
              mb: shape === "beats" ? "10px" : 0,
            }}
          >
            {item.kind === "tap" ? (
              ""
            ) : (
              <span style={{ display: "flex", alignItems: "center", gap: 7 }}>
                <StateMark now={now} colour={lit ? ink.text : hue} />
                {now.said}
              </span>
            )}
          </Line>
        </Box>
      </Box>
    </Box>
  );
}

/** `2.6` large, and beneath it `s left`. */
function Left({ said }: { said: string }) {
  const [number, ...words] = said.split(" ");
  return (
    <Box
      component="span"
      sx={{
        minWidth: 0,
        lineHeight: 1.1,
        whiteSpace: "nowrap",
        "& b": { font: `500 30px ${mono}` },
        "& small": { display: "block", fontSize: 14, color: ink.soft },
        "@media (max-width: 600px)": {
          "& b": { fontSize: 22 },
          "& small": { display: "inline", ml: 0.75, fontSize: 13 },
        },
      }}
    >
      <b>{number}</b>
      <small>{words.join(" ")}</small>
    </Box>
  );
}

/** The tempo, and the beat of the bar as it is. */
function Beats() {
  const bpm = usePageNow((now) => now.bpm);
  const bars = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let last = -1;
    const timer = setInterval(() => {
      const here = beatNow() % 4;
      if (here === last) return;
      last = here;
      [...(bars.current?.children ?? [])].forEach((one, n) => {
        const { style } = one as HTMLElement;
        style.background = n === here ? "var(--brass)" : "var(--hair)";
        style.color = n === here ? "var(--ground)" : "var(--soft)";
      });
    }, BEAT_MS);
    return () => clearInterval(timer);
  }, []);
  return (
    <span style={{ flex: 1, alignSelf: "stretch", display: "flex", flexDirection: "column", minWidth: 0 }}>
      <span style={{ font: `500 clamp(22px, 3.2vw, 34px) ${mono}`, whiteSpace: "nowrap", lineHeight: 1.15 }}>
        {bpm.toFixed(1)} <small style={{ fontSize: "0.5em", color: "var(--soft)" }}>BPM</small>
      </span>
      <span
        ref={bars}
        style={{
          display: "grid",
          gridTemplateColumns: "repeat(4,1fr)",
          gap: 5,
          flex: 1,
          maxHeight: 40,
          minHeight: 14,
        }}
      >
        {[1, 2, 3, 4].map((one) => (
          <span
            key={one}
            style={{ borderRadius: 3, display: "grid", placeItems: "center", font: `500 15px ${mono}` }}
          >
            {one}
          </span>
        ))}
      </span>
    </span>
  );
}

function Words({ item }: { item: Item }) {
  return (
    <Box
      sx={{
        flex: 1,
        display: "flex",
        alignItems: "center",
        px: 1,
        fontSize: 20,
        fontWeight: 650,
        color: ink.soft,
      }}
    >
      {item.words}
    </Box>
  );
}

export function Line({ children, sx }: { children: React.ReactNode; sx: object }) {
  return (
    <Box
      component="span"
      title={typeof children === "string" ? children : undefined}
      sx={{
        display: "block",
        flex: "none",
        minWidth: 0,
        lineHeight: 1.32,
        overflow: "hidden",
        textOverflow: "ellipsis",
        whiteSpace: "nowrap",
        ...sx,
      }}
    >
      {children}
    </Box>
  );
}
