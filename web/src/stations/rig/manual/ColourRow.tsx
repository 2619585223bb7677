import { Box } from "@mui/material";
import { useState } from "react";
import { Cap } from "../../../components/atoms";
import { Range } from "../../../components/Range";
import { Typed } from "../../../components/Typed";
import { type Attribute, kelvinColour, levelOf, levelsAt, mix, readFan } from "../../../model/manual";
import { css, fromHsv, type Rgb, readColour, round, toHsv } from "../../../model/values";
import { hold } from "../../../stores/hands";
import { ink } from "../../../theme/tokens";
import { usePlaceSent } from "./usePlaceSent";

const RED_GREEN_BLUE = ["ColorAdd_R", "ColorAdd_G", "ColorAdd_B"];
const BY_HUE = ["HSB_Hue", "HSB_Saturation"];

/** Hue, saturation, brightness, hex and temperature of all chosen. Emitters beside red, green and blue stay as
 * they are; each has its own fader below. Nothing is sent before something is moved or typed. */
export function ColourRow({ attributes }: { attributes: Attribute[] }) {
  const find = (name: string) => attributes.find((one) => one.name === name);
  const [red, green, blue] = RED_GREEN_BLUE.map(find);
  const [hue, saturation] = BY_HUE.map(find);
  const level = find("HSB_Brightness") ?? find("Dimmer");
  const sent = [useLevel(red), useLevel(green), useLevel(blue)];
  const bySent = [useLevel(hue), useLevel(saturation), useLevel(level)];
  const [moving, setMoving] = useState<[number, number, number] | null>(null);
  const isHue = Boolean(hue && saturation && !red);
  if (!isHue && !(red && green && blue)) return null;
  const now: Rgb = isHue
    ? fromHsv((bySent[0] ?? 0) * 360, bySent[1] ?? 0, bySent[2] ?? 0)
    : [byte(sent[0]), byte(sent[1]), byte(sent[2])];
  const [h, s, v] = moving ?? toHsv(now);
  const shown = moving ? fromHsv(h, s, v) : now;

  const set = (colours: (index: number) => Rgb) => {
    const levels: Record<string, number> = {};
    const put = (attribute: Attribute | undefined, part: (rgb: Rgb) => number) =>
      Object.assign(
        levels,
        levelsAt(attribute?.places ?? [], (index) => part(colours(index))),
      );
    if (isHue) {
      put(hue, (rgb) => toHsv(rgb)[0] / 360);
      put(saturation, (rgb) => toHsv(rgb)[1]);
      put(level, (rgb) => toHsv(rgb)[2]);
    } else {
      put(red, (rgb) => rgb[0] / 255);
      put(green, (rgb) => rgb[1] / 255);
      put(blue, (rgb) => rgb[2] / 255);
    }
    hold("manual", { levels });
  };
  const move = (next: [number, number, number]) => {
    setMoving(next);
    set(() => fromHsv(...next));
  };
  const count = (red ?? hue)?.places.length ?? 0;
  const type = (text: string) => {
    const colours = readFan(text, count, readColour, mixColours);
    if (!colours) return "#ffce80 or 255 206 128; #ff0000 > #0000ff fans.";
    setMoving(null);
    return set((index) => colours[index] ?? [0, 0, 0]);
  };
  const kelvin = (text: string) => {
    const temperatures = readFan(text.replace(/k/gi, ""), count, readKelvin, mix);
    if (!temperatures) return "1667 to 25000 K, such as 3200 K.";
    setMoving(null);
    return set((index) => kelvinColour(temperatures[index] ?? 6500));
  };
  const sliders = [
    { label: "Hue", value: h, most: 360, unit: "°", to: (next: number) => move([next, s || 1, v || 1]) },
    { label: "Saturation", value: s, most: 1, unit: "%", to: (next: number) => move([h, next, v]) },
    { label: "Brightness", value: v, most: 1, unit: "%", to: (next: number) => move([h, s, next]) },
  ];
  return (
    <Box role="group" aria-label="Colour by hand" sx={{ mb: 1 }}>
      <Box
        sx={{ display: "grid", gridTemplateColumns: "34px 1fr 92px", gap: 1, alignItems: "center", mb: 0.5 }}
      >
        <Box
          role="img"
          aria-label="The colour that is sent"
          sx={{ height: 26, borderRadius: "3px", background: css(shown), border: `1px solid ${ink.hair2}` }}
        />
        <Typed numeric label="Colour, typed" value={hex(shown)} onCommit={type} />
        <Typed numeric label="Temperature, typed" value="" placeholder="3200 K" onCommit={kelvin} />
      </Box>
      {sliders.map(({ label, value, most, unit, to }) => (
        <Box
          key={label}
          sx={{ display: "grid", gridTemplateColumns: "92px 1fr 62px", gap: 0.75, alignItems: "center" }}
        >
          <Cap>{label.toLowerCase()}</Cap>
          <Range
            label={label}
            min={0}
            max={most}
            step={most / 360}
            value={value}
            onMove={to}
            onCommit={() => setTimeout(() => setMoving(null), 300)}
          />
          <Typed
            numeric
            label={`${label}, typed`}
            value={`${round(most === 1 ? value * 100 : value, 0)} ${unit}`}
            onCommit={(text) => {
              const typed = Number.parseFloat(text) / (most === 1 ? 100 : 1);
              if (!(typed >= 0 && typed <= most)) return most === 1 ? "0 to 100 %." : "0 to 360 degrees.";
              return to(typed);
            }}
          />
        </Box>
      ))}
    </Box>
  );
}

const byte = (level: number | undefined): number => Math.round((level ?? 0) * 255);
const hex = (rgb: Rgb): string => `#${rgb.map((part) => part.toString(16).padStart(2, "0")).join("")}`;
const mixColours = (a: Rgb, b: Rgb, at: number): Rgb => [
  Math.round(mix(a[0], b[0], at)),
  Math.round(mix(a[1], b[1], at)),
  Math.round(mix(a[2], b[2], at)),
];
const readKelvin = (text: string): number | null => {
  const value = Number(text.trim() || Number.NaN);
  return value >= 1667 && value <= 25000 ? value : null;
};

/** The level that is sent at an attribute's first place. */
function useLevel(attribute: Attribute | undefined): number {
  const [coarse, fine] = usePlaceSent(attribute?.places[0]);
  return attribute ? levelOf(attribute.channel, coarse, fine) : 0;
}
