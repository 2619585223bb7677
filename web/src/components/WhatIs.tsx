import { Box } from "@mui/material";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { createPortal } from "react-dom";
import { answer, client } from "../api/client";
import { useView } from "../stores/view";
import { ink } from "../theme/tokens";
import { bubblePlace } from "./bubblePlace";

interface Told {
  word: string;
  says: string;
  of: DOMRect;
}

const LEVELS = 7;
/** A pointer that goes so far has left what it asked about, px. */
const LEFT_PX = 60;

/** What an element calls itself, the nearest first: its name, its words, what it says under the pointer. */
function labelsOf(element: Element): string[] {
  const found: string[] = [];
  for (let at: Element | null = element, n = 0; at && n < LEVELS; at = at.parentElement, n++) {
    if (at === document.body) break;
    const own = [...at.childNodes]
      .filter((one) => one.nodeType === Node.TEXT_NODE)
      .map((one) => one.textContent?.trim() ?? "")
      .join(" ");
    found.push(own, at.getAttribute("aria-label") ?? "", n < 3 ? ((at as HTMLElement).innerText ?? "") : "");
    if (at.matches("section, main, header, footer")) break;
  }
  return found.filter((one) => one.length > 0);
}

/** The effects, which say themselves what they are. */
const effectsNow = () => answer(client.GET("/api/effects")).catch(() => []);

/** "?" says what stands under the pointer, or what has the focus; with nothing to say it opens the help. */
export function WhatIs() {
  const [told, setTold] = useState<Told | null>(null);
  useEffect(() => {
    let [x, y] = [0, 0];
    let asked: [number, number] | null = null;
    const close = () => {
      asked = null;
      setTold(null);
    };
    const onMove = (event: PointerEvent) => {
      [x, y] = [event.clientX, event.clientY];
      if (asked && Math.hypot(x - asked[0], y - asked[1]) > LEFT_PX) close();
    };
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest("input:not([type=range]):not([type=checkbox]), textarea");
      if (event.key !== "F1" && (event.key !== "?" || typing)) return close();
      event.preventDefault();
      event.stopPropagation();
      if (useView.getState().help) return useView.setState({ help: false });
      const focused = document.activeElement;
      const under = document.elementFromPoint(x, y);
      const byKeys =
        focused && focused !== document.body && focused.matches(":focus-visible") ? focused : null;
      const of = byKeys ?? under;
      void Promise.all([import("../help/words"), effectsNow()]).then(([{ wordIn }, effects]) => {
        for (const label of of ? labelsOf(of) : []) {
          const effect = effects.find((one) => one.name === label);
          const known = effect ? { word: effect.name, says: effect.says } : wordIn(label);
          if (known && of) {
            asked = [x, y];
            setTold({ ...known, of: of.getBoundingClientRect() });
            return;
          }
        }
        close();
        useView.setState({ help: true });
      });
    };
    window.addEventListener("pointermove", onMove);
    window.addEventListener("pointerdown", close);
    window.addEventListener("keydown", onKey, true);
    return () => {
      window.removeEventListener("pointermove", onMove);
      window.removeEventListener("pointerdown", close);
      window.removeEventListener("keydown", onKey, true);
    };
  }, []);
  if (!told) return null;
  return createPortal(<Card told={told} />, document.body);
}

function Card({ told }: { told: Told }) {
  const card = useRef<HTMLDivElement>(null);
  const [place, setPlace] = useState<{ left: number; top: number } | null>(null);
  useLayoutEffect(() => {
    const own = card.current?.getBoundingClientRect();
    if (!own) return;
    const view = { width: window.innerWidth, height: window.innerHeight };
    setPlace(bubblePlace(told.of, { width: own.width, height: own.height }, view, []));
  }, [told]);
  return (
    <Box
      ref={card}
      role="status"
      aria-label="What it is"
      style={place ?? { left: 0, top: 0, visibility: "hidden" }}
      sx={{
        position: "fixed",
        zIndex: 1500,
        width: "max-content",
        maxWidth: 320,
        p: 1.25,
        fontSize: 14,
        lineHeight: "20px",
        background: ink.panel,
        border: `1px solid ${ink.sea}`,
        borderRadius: "4px",
        color: ink.text,
        pointerEvents: "none",
      }}
    >
      <b style={{ fontWeight: 600 }}>{told.word.charAt(0).toUpperCase() + told.word.slice(1)}</b>
      <br />
      {told.says}
    </Box>
  );
}
