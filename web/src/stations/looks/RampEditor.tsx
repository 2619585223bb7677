import { Box, Button } from "@mui/material";
import { useRef, useState } from "react";
import { Cap } from "../../components/atoms";
import { ColourChooser } from "../../components/ColourChooser";
import { colourOf, rampCss, type Stop, withStopAdded } from "../../model/lines";
import { clamp, type Rgb, round } from "../../model/values";
import { ink } from "../../theme/tokens";

interface RampProps {
  stops: Stop[];
  onMove: (stops: Stop[]) => void;
  onCommit: (stops: Stop[]) => unknown;
  /** Another colour is chosen. */
  onChoose?: (index: number) => void;
}

/** The colours of a line: 1 to 8 stops, dragged along the ramp, each set by hue or by red, green and blue. */
export function RampEditor({ stops, onMove, onCommit, onChoose }: RampProps) {
  const [chosen, put] = useState(0);
  const setChosen = (index: number) => {
    put(index);
    onChoose?.(index);
  };
  const bar = useRef<HTMLDivElement>(null);
  const dragging = useRef(false);
  const index = clamp(chosen, 0, stops.length - 1);
  const stop = stops[index] ?? ([0, 255, 255, 255] as Stop);
  const colour = colourOf(stop);
  const changed = (next: Stop): Stop[] => stops.map((one, i) => (i === index ? next : one));
  const coloured = (rgb: Rgb) => changed([stop[0], ...rgb]);
  const placed = (event: React.PointerEvent): Stop[] => {
    const box = bar.current?.getBoundingClientRect();
    if (!box) return stops;
    const low = stops[index - 1]?.[0] ?? 0;
    const high = stops[index + 1]?.[0] ?? 1;
    const at = round(clamp((event.clientX - box.left) / box.width, low, high), 3);
    return changed([at, ...colour]);
  };
  /** Arrows move a colour along the ramp by 1 %, with Shift by 10 %; Delete takes it away. */
  const onKey = (event: React.KeyboardEvent, i: number) => {
    const step = { ArrowLeft: -0.01, ArrowRight: 0.01 }[event.key];
    const one = stops[i];
    if (step && one && stops.length > 1) {
      const [low, high] = [stops[i - 1]?.[0] ?? 0, stops[i + 1]?.[0] ?? 1];
      const at = round(clamp(one[0] + step * (event.shiftKey ? 10 : 1), low, high), 3);
      onCommit(stops.map((other, n) => (n === i ? [at, ...colourOf(one)] : other) as Stop));
    } else if (event.key === "Delete" && stops.length > 1) onCommit(stops.filter((_, n) => n !== i));
    else return;
    event.preventDefault();
    event.stopPropagation();
    event.nativeEvent.stopImmediatePropagation();
  };
  return (
    <Box sx={{ display: "grid", gap: 1 }}>
      <Box
        ref={bar}
        sx={{ position: "relative", height: 26, borderRadius: "4px", background: rampCss(stops), mx: "2px" }}
      >
        {stops.map(([at], i) => (
          <Box
            // biome-ignore lint/suspicious/noArrayIndexKey: stops have no identity but their order
            key={i}
            component="button"
            aria-label={`Colour ${i + 1}`}
            aria-pressed={i === index}
            onPointerDown={(event: React.PointerEvent<HTMLButtonElement>) => {
              setChosen(i);
              dragging.current = stops.length > 1 && i === index;
              event.currentTarget.setPointerCapture(event.pointerId);
            }}
            onPointerMove={(event: React.PointerEvent) =>
              dragging.current && event.buttons && onMove(placed(event))
            }
            onFocus={() => setChosen(i)}
            onKeyDown={(event: React.KeyboardEvent) => onKey(event, i)}
            onPointerUp={(event: React.PointerEvent) => {
              if (dragging.current) onCommit(placed(event));
              dragging.current = false;
            }}
            sx={{
              position: "absolute",
              left: `calc(${at * 100}% - 6px)`,
              top: -5,
              width: 12,
              height: 36,
              p: 0,
              border: 0,
              background: "none",
              cursor: "ew-resize",
              "&:after": {
                content: '""',
                position: "absolute",
                left: 4,
                top: 0,
                bottom: 0,
                width: 4,
                borderRadius: 1,
                background: i === index ? ink.brass : ink.text,
                outline: `1px solid ${ink.ground}`,
              },
            }}
          />
        ))}
      </Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.25, mt: 0.5, fontSize: 13 }}>
        <Cap>
          colour {index + 1} of {stops.length}
        </Cap>
        <Button
          sx={{ ml: "auto" }}
          disabled={stops.length >= 8}
          onClick={() => {
            const more = withStopAdded(stops);
            setChosen(more.findIndex((one, n) => one.join() !== stops[n]?.join()));
            onCommit(more);
          }}
        >
          Add colour
        </Button>
        <Button disabled={stops.length < 2} onClick={() => onCommit(stops.filter((_, i) => i !== index))}>
          Remove
        </Button>
      </Box>
      <ColourChooser
        key={index}
        rgb={colour}
        onMove={(rgb) => onMove(coloured(rgb))}
        onCommit={(rgb) => onCommit(coloured(rgb))}
      />
    </Box>
  );
}
