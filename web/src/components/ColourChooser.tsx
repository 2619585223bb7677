import { Box } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, problemOf, type Schemas } from "../api/client";
import { css, fromHsv, type Rgb, toHsv } from "../model/values";
import { ink } from "../theme/tokens";
import { Cap } from "./atoms";
import { ColourRibbons, type Part } from "./ColourRibbons";
import { Typed } from "./Typed";

interface ChooserProps {
  /** Whose colour it is, for readers. */
  label?: string;
  rgb: Rgb;
  /** While it is dragged. */
  onMove: (rgb: Rgb) => void;
  onCommit: (rgb: Rgb) => unknown;
}

/** Where all ways of writing it find room in two rows. */
const ROOMY = "@container (min-width: 330px)";

type Read = Schemas["ColourRead"];

const readColour = async (text: string): Promise<Read> =>
  (await answer(client.GET("/api/reading/colour", { params: { query: { text } } }))) as Read;

/**
 * A colour, everywhere chosen alike: three ribbons, all ways of typing it at once, and colours that go with it. Opening
 * and closing it changes nothing.
 */
export function ColourChooser({ label = "Colour", rgb, onMove, onCommit }: ChooserProps) {
  const text = rgb.join(" ");
  const [dragged, setDragged] = useState<[number, number, number] | null>(null);
  const { data } = useQuery({
    queryKey: ["colour", text],
    queryFn: () => readColour(text),
    enabled: dragged === null,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    retry: false,
  });
  /** A grey keeps the hue it was dragged from, as long as the hand is on it. */
  const [hue, saturation, brightness] = dragged ?? toHsv(rgb);
  const moved = (part: Part, to: number): [number, number, number] => [
    part === "hue" ? to % 360 : hue,
    part === "saturation" ? to : saturation,
    part === "brightness" ? to : brightness,
  ];
  const type = (typed: string) =>
    problemOf(async () => {
      const [red = 0, green = 0, blue = 0] = (await readColour(typed)).rgb;
      await onCommit([red, green, blue]);
    });
  const known = data?.rgb.join(" ") === text ? data : undefined;
  return (
    <Box role="group" aria-label={label} sx={{ display: "grid", gap: 0.75, containerType: "inline-size" }}>
      <Box sx={{ display: "grid", gridTemplateColumns: "36px minmax(0, 1fr)", gap: 0.75 }}>
        <Box sx={{ borderRadius: "4px", border: `1px solid ${ink.hair2}`, background: css(rgb) }} />
        <Box sx={{ display: "grid", gridTemplateColumns: "1.35fr 1fr", gap: 0.5 }}>
          <Typed numeric label={`${label}, typed`} value={text} onCommit={type} />
          <Typed numeric label={`${label} in hex`} value={known?.hex ?? ""} placeholder="#" onCommit={type} />
          <Box sx={{ gridColumn: "span 2", [ROOMY]: { gridColumn: "auto" } }}>
            <Typed
              numeric
              label={`${label} in percent`}
              value={known?.percent ?? ""}
              placeholder="%"
              onCommit={type}
            />
          </Box>
          <Typed numeric label={`${label} by temperature`} value="" placeholder="3200 K" onCommit={type} />
        </Box>
      </Box>
      <ColourRibbons
        hue={hue}
        saturation={saturation}
        brightness={brightness}
        onMove={(part, to) => {
          const next = moved(part, to);
          setDragged(next);
          onMove(fromHsv(...next));
        }}
        onCommit={async (part, to) => {
          const next = fromHsv(...moved(part, to));
          await onCommit(next);
          setDragged(null);
        }}
      />
      {known && known.beside.length > 0 && (
        <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
          <Cap>goes with it</Cap>
          {known.beside.map(({ word, colours }) => (
            <Box key={word} sx={{ display: "flex", gap: "3px" }} title={word}>
              {colours.map((one) => (
                <Box
                  key={one.join()}
                  component="button"
                  aria-label={`${word}: ${one.join(" ")}`}
                  onClick={() => void onCommit([one[0] ?? 0, one[1] ?? 0, one[2] ?? 0])}
                  sx={{
                    width: 24,
                    height: 24,
                    p: 0,
                    borderRadius: "4px",
                    border: `1px solid ${ink.hair2}`,
                    background: `rgb(${one.join(" ")})`,
                    cursor: "pointer",
                  }}
                />
              ))}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
