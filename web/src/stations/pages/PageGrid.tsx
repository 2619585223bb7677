import { Box } from "@mui/material";
import { useRef, useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap } from "../../components/atoms";
import { ItemView } from "../../page/ItemView";
import type { Item, Page } from "../../page/shapes";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import type { PageEdits } from "./usePages";

interface GridProps {
  show: WholeShow;
  page: Page;
  edits: PageEdits;
  onWrong: (what: string) => void;
}

interface Lies {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** The page as the tablet shows it, on its squares; items are moved and sized by squares, and stay where they do not fit. */
export function PageGrid({ show, page, edits, onWrong }: GridProps) {
  const grid = useRef<HTMLDivElement>(null);
  const chosen = useView((view) => view.item);
  const [dragged, setDragged] = useState<{ id: string; lies: Lies } | null>(null);
  const place = async (item: Item, lies: Lies) => {
    const same = lies.x === item.x && lies.y === item.y && lies.w === item.w && lies.h === item.h;
    if (!same) onWrong(await edits.set(item.id, lies));
    setDragged(null);
  };
  const begin = (item: Item, down: React.PointerEvent, corner: boolean) => {
    down.stopPropagation();
    useView.setState({ item: item.id });
    const box = grid.current?.getBoundingClientRect();
    if (!box) return;
    const [wide, tall] = [box.width / page.columns, box.height / page.rows];
    let lies: Lies = { x: item.x, y: item.y, w: item.w, h: item.h };
    const move = (event: PointerEvent) => {
      const dx = Math.round((event.clientX - down.clientX) / wide);
      const dy = Math.round((event.clientY - down.clientY) / tall);
      lies = corner
        ? {
            ...lies,
            w: within(item.w + dx, 1, page.columns - item.x),
            h: within(item.h + dy, 1, page.rows - item.y),
          }
        : {
            ...lies,
            x: within(item.x + dx, 0, page.columns - item.w),
            y: within(item.y + dy, 0, page.rows - item.h),
          };
      setDragged({ id: item.id, lies });
    };
    const stop = () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      window.removeEventListener("pointercancel", cancel);
    };
    const up = () => {
      stop();
      void place(item, lies);
    };
    const cancel = () => {
      stop();
      setDragged(null);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
    window.addEventListener("pointercancel", cancel);
  };
  const onKey = (item: Item, event: React.KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const by = STEPS[event.key];
    if (event.key === "Delete") void edits.drop([item.id]);
    else if (by) {
      const [dx, dy] = by;
      void place(item, {
        x: event.shiftKey ? item.x : within(item.x + dx, 0, page.columns - item.w),
        y: event.shiftKey ? item.y : within(item.y + dy, 0, page.rows - item.h),
        w: event.shiftKey ? within(item.w + dx, 1, page.columns - item.x) : item.w,
        h: event.shiftKey ? within(item.h + dy, 1, page.rows - item.y) : item.h,
      });
    } else return;
    event.preventDefault();
  };
  return (
    <Box sx={{ flex: 1, minHeight: 0, p: 2, display: "flex", flexDirection: "column", gap: 1 }}>
      <Box
        ref={grid}
        role="group"
        aria-label={`Items of ${page.name}`}
        onPointerDown={() => useView.setState({ item: "" })}
        sx={{
          flex: 1,
          minHeight: 0,
          position: "relative",
          border: `1px solid ${ink.hair2}`,
          borderRadius: "6px",
          backgroundImage: `linear-gradient(90deg, ${ink.hair} 1px, transparent 1px), linear-gradient(${ink.hair} 1px, transparent 1px)`,
          backgroundSize: `calc(100% / ${page.columns}) calc(100% / ${page.rows})`,
        }}
      >
        {page.items.map((one) => {
          const lies = dragged?.id === one.id ? dragged.lies : one;
          const here = one.id === chosen;
          return (
            <Box
              key={one.id}
              tabIndex={0}
              role="group"
              aria-label={`${one.kind} ${one.words}`}
              aria-current={here}
              onFocus={() => useView.setState({ item: one.id })}
              onPointerDown={(event: React.PointerEvent) => begin(one, event, false)}
              onKeyDown={(event: React.KeyboardEvent) => onKey(one, event)}
              sx={{
                position: "absolute",
                left: `calc(${(lies.x / page.columns) * 100}% + 3px)`,
                top: `calc(${(lies.y / page.rows) * 100}% + 3px)`,
                width: `calc(${(lies.w / page.columns) * 100}% - 6px)`,
                height: `calc(${(lies.h / page.rows) * 100}% - 6px)`,
                display: "flex",
                cursor: "grab",
                outline: here ? `2px solid ${ink.brass}` : "none",
                outlineOffset: "2px",
                touchAction: "none",
                "& > .shown": { pointerEvents: "none" },
              }}
            >
              <Box
                className="shown"
                inert
                sx={{ flex: 1, display: "flex", minWidth: 0, minHeight: 0, zoom: 0.74 }}
              >
                <ItemView item={one} show={show} still />
              </Box>
              {here && (
                <Box
                  onPointerDown={(event: React.PointerEvent) => begin(one, event, true)}
                  sx={{
                    position: "absolute",
                    right: -6,
                    bottom: -6,
                    width: 14,
                    height: 14,
                    background: ink.brass,
                    borderRadius: "2px",
                    cursor: "nwse-resize",
                  }}
                />
              )}
            </Box>
          );
        })}
      </Box>
      <Cap sx={{ fontSize: 13 }}>
        States are as they are now; a touch here chooses and moves nothing. Changes reach every tablet at
        once.
      </Cap>
    </Box>
  );
}

const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const within = (value: number, least: number, most: number): number => Math.min(Math.max(value, least), most);
