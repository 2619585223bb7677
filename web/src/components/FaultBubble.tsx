import { Box } from "@mui/material";
import { type RefObject, useLayoutEffect, useRef, useState } from "react";
import { createPortal } from "react-dom";
import { ink } from "../theme/tokens";
import { type Around, bubblePlace } from "./bubblePlace";

const CONTROLS = "input, textarea, select, button, [role=slider], [role=option]";
const FIELDS = "input, textarea, select";
/** So bad is it to lie over the field that is typed into next, over another bubble, over any other control. */
const NEXT = 100;
const BUBBLE = 60;
const OTHER = 1;
/** Fields so close beneath are where one goes next, px. */
const BENEATH = 44;

interface BubbleProps {
  of: RefObject<HTMLInputElement | null>;
  says: string;
}

/** What is wrong with a field, beside it: it goes with its cause, and covers neither the next field nor another one. */
export function FaultBubble(props: BubbleProps) {
  return createPortal(<Placed {...props} />, document.body);
}

function Placed({ of, says }: BubbleProps) {
  const bubble = useRef<HTMLDivElement>(null);
  const [place, setPlace] = useState<{ left: number; top: number } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other words take another place
  useLayoutEffect(() => {
    // What is wrong is read whole, also at the foot of a table.
    of.current?.scrollIntoView({ block: "nearest" });
    const put = () => {
      const [field, own] = [of.current?.getBoundingClientRect(), bubble.current?.getBoundingClientRect()];
      if (!field || !own || !of.current || !bubble.current) return;
      if (!inSight(of.current, field)) return setPlace(null);
      const view = { width: window.innerWidth, height: window.innerHeight };
      const size = { width: own.width, height: own.height };
      setPlace(bubblePlace(field, size, view, aroundOf(of.current, bubble.current)));
    };
    put();
    window.addEventListener("scroll", put, true);
    window.addEventListener("resize", put);
    return () => {
      window.removeEventListener("scroll", put, true);
      window.removeEventListener("resize", put);
    };
  }, [says]);
  return (
    <Box
      ref={bubble}
      role="alert"
      data-bubble
      style={place ?? { left: 0, top: 0, visibility: "hidden" }}
      sx={{
        position: "fixed",
        fontWeight: 400,
        zIndex: 1400,
        width: "max-content",
        maxWidth: 300,
        p: 1,
        fontSize: 13,
        lineHeight: "17px",
        background: ink.panel,
        border: `1px solid ${ink.brass}`,
        borderRadius: "4px",
        color: ink.text,
        whiteSpace: "normal",
        pointerEvents: "none",
      }}
    >
      {says}
    </Box>
  );
}

/** Whether a field shows in what scrolls around it. */
function inSight(field: HTMLElement, at: DOMRect): boolean {
  for (let box = field.parentElement; box; box = box.parentElement) {
    const { overflowY } = getComputedStyle(box);
    if (overflowY !== "auto" && overflowY !== "scroll") continue;
    const around = box.getBoundingClientRect();
    if (at.bottom < around.top || at.top > around.bottom) return false;
  }
  return true;
}

function aroundOf(field: HTMLElement, own: HTMLElement): Around[] {
  const at = field.getBoundingClientRect();
  const fields = [...document.querySelectorAll<HTMLElement>(FIELDS)];
  const next = fields[fields.indexOf(field) + 1];
  const found: Around[] = [];
  for (const one of document.querySelectorAll<HTMLElement>(CONTROLS)) {
    if (one === field || one.contains(field) || own.contains(one)) continue;
    const rect = one.getBoundingClientRect();
    if (!rect.width || !rect.height) continue;
    const beneath =
      one.matches(FIELDS) &&
      rect.top >= at.bottom - 2 &&
      rect.top < at.bottom + BENEATH &&
      rect.left < at.right &&
      at.left < rect.right;
    found.push({ rect, weight: one === next || beneath ? NEXT : OTHER });
  }
  for (const one of document.querySelectorAll<HTMLElement>("[data-bubble]"))
    if (one !== own) found.push({ rect: one.getBoundingClientRect(), weight: BUBBLE });
  return found;
}
