import { Box } from "@mui/material";
import { useRef, useState } from "react";
import { newId } from "../../../api/person";
import { ColourRibbons } from "../../../components/ColourRibbons";
import { Typed } from "../../../components/Typed";
import type { Attribute } from "../../../model/manual";
import { css, fromHsv, type Rgb, toHsv } from "../../../model/values";
import { type ColourMove, moveColours, typeByHand } from "../../../stores/hands";
import { ink } from "../../../theme/tokens";
import { useLevelsSent } from "./usePlaceSent";

const RED_GREEN_BLUE = ["ColorAdd_R", "ColorAdd_G", "ColorAdd_B"];
const SETTLE_MS = 300;
type What = ColourMove["what"];
const BY_HUE = ["HSB_Hue", "HSB_Saturation"];

/** Hue, saturation, brightness, hex and temperature of all chosen. Emitters beside red, green and blue stay as
 * they are; each has its own fader below. Nothing is sent before something is moved or typed. */
export function ColourRow({ attributes }: { attributes: Attribute[] }) {
  const find = (name: string) => attributes.find((one) => one.name === name);
  const [red, green, blue] = RED_GREEN_BLUE.map(find);
  const [hue, saturation] = BY_HUE.map(find);
  const level = find("HSB_Brightness") ?? find("Dimmer");
  const isHue = Boolean(hue && saturation && !red);
  const channels = isHue ? [hue, saturation, level] : [red, green, blue];
  const sent = useLevelsSent(channels);
  const [moving, setMoving] = useState<Partial<Record<What, number>>>({});
  const drag = useRef("");
  if (!isHue && !(red && green && blue)) return null;
  const many = channels[0]?.places.length ?? 0;
  const colours = Array.from({ length: many }, (_, n): Rgb => {
    const [a = 0, b = 0, c = 0] = sent.map((one) => one[n] ?? 0);
    return isHue ? fromHsv(a * 360, b, c) : [byte(a), byte(b), byte(c)];
  });
  const mixed = colours.some((one) => one.some((part, n) => Math.abs(part - (colours[0]?.[n] ?? 0)) > 1));
  /** The brightest stands for all: brightness moves it, and the others with it. */
  const lead = brightestOf(colours);
  const [h, s, v] = toHsv(lead);
  const shown =
    moving.hue === undefined && moving.saturation === undefined && moving.brightness === undefined
      ? lead
      : fromHsv(moving.hue ?? h, moving.saturation ?? s, moving.brightness ?? v);

  const cells = Array.from({ length: many }, (_, n) => ({
    keys: channels.map((one) => one?.places[n]?.key ?? "") as [string, string, string],
    by_hue: isHue,
  }));
  /** What each cell becomes is worked out in the engine, from what all were when the movement began. */
  const move = (what: What, to: number) => {
    drag.current ||= newId();
    setMoving((before) => ({ ...before, [what]: to }));
    moveColours({ cells, what, to: what === "hue" ? to / 360 : to, drag: drag.current });
  };
  const end = () => {
    drag.current = "";
    setTimeout(() => setMoving({}), SETTLE_MS);
  };
  const type = (text: string, kelvin: boolean) => {
    setMoving({});
    return typeByHand({ do: "type_colours", text, cells, kelvin });
  };
  return (
    <Box role="group" aria-label="Colour by hand" sx={{ mb: 1 }}>
      <Box
        sx={{ display: "grid", gridTemplateColumns: "34px 1fr 92px", gap: 1, alignItems: "center", mb: 0.5 }}
      >
        <Box
          role="img"
          aria-label={mixed ? "The colours that are sent: mixed" : "The colour that is sent"}
          title={mixed ? "mixed: the brightest stands for all" : undefined}
          sx={{
            height: 26,
            borderRadius: "3px",
            border: `1px solid ${ink.hair2}`,
            background: mixed && many < STRIPES ? stripes(colours) : css(shown),
          }}
        />
        <Typed
          numeric
          label="Colour, typed"
          value={mixed ? "" : hex(shown)}
          placeholder={mixed ? "mixed" : undefined}
          onCommit={(text) => type(text, false)}
        />
        <Typed
          numeric
          label="Temperature, typed"
          value=""
          placeholder="3200 K"
          onCommit={(text) => type(text, true)}
        />
      </Box>
      <ColourRibbons
        hue={moving.hue ?? h}
        saturation={moving.saturation ?? s}
        brightness={moving.brightness ?? v}
        onMove={move}
        onCommit={(what, to) => {
          if (moving[what] !== to) move(what, to);
          end();
        }}
      />
    </Box>
  );
}

function brightestOf(colours: Rgb[]): Rgb {
  let found: Rgb = [0, 0, 0];
  for (const one of colours) if (Math.max(...one) > Math.max(...found)) found = one;
  return found;
}

/** Beyond so many cells their colours would be no more than a blur. */
const STRIPES = 64;
const stripes = (colours: Rgb[]): string =>
  `linear-gradient(90deg, ${colours
    .map((one, n) => `${css(one)} ${(n / colours.length) * 100}% ${((n + 1) / colours.length) * 100}%`)
    .join(", ")})`;

const byte = (level: number | undefined): number => Math.round((level ?? 0) * 255);
const hex = (rgb: Rgb): string => `#${rgb.map((part) => part.toString(16).padStart(2, "0")).join("")}`;
