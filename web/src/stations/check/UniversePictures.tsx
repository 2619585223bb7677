import { Box, ButtonBase } from "@mui/material";
import { useEffect, useRef } from "react";
import { eachFrame } from "../../canvas/eachFrame";
import { Num } from "../../components/atoms";
import { watchLevels } from "../../stores/live";
import { levels } from "../../stores/pictures";
import { ink, inkNow, themeNow } from "../../theme/tokens";
import type { Universe } from "../patch/universes";

/** So many are watched as pictures; more are numbers alone. */
const PICTURED = 24;
const LISTED = 128;
const ACROSS = 32;
const DOWN = 16;

/** Every universe as a small picture of what it sends: 512 channels, 32 on a line. */
export function UniversePictures({
  known,
  chosen,
  onChoose,
}: {
  known: Universe[];
  chosen: number;
  onChoose: (universe: number) => void;
}) {
  return (
    <Box
      role="group"
      aria-label="Universes"
      sx={{ px: 2, pb: 1, display: "flex", gap: 0.5, flexWrap: "wrap", maxHeight: 102, overflowY: "auto" }}
    >
      {known.slice(0, LISTED).map((one, n) => (
        <ButtonBase
          key={one.number}
          aria-pressed={one.number === chosen}
          aria-label={`U${one.number}`}
          onClick={() => onChoose(one.number)}
          sx={{
            flexDirection: "column",
            alignItems: "flex-start",
            p: "2px",
            border: `1px solid ${one.number === chosen ? ink.brass : ink.hair2}`,
            borderRadius: "3px",
            background: one.number === chosen ? ink.brassGround : "none",
          }}
        >
          {n < PICTURED && <Picture universe={one.number} />}
          <Num
            style={{
              fontSize: 11.5,
              lineHeight: "15px",
              color: one.number === chosen ? ink.text : ink.soft,
            }}
          >
            U{one.number}
            {!one.sentBy.length && " not sent"}
          </Num>
        </ButtonBase>
      ))}
    </Box>
  );
}

function Picture({ universe }: { universe: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => watchLevels(universe), [universe]);
  useEffect(() => {
    let seen: Uint8Array | undefined;
    let theme: string | undefined;
    const draw = () => {
      const values = levels.get(universe)?.values;
      const g = canvas.current?.getContext("2d");
      if (!g || !values || (values === seen && theme === themeNow())) return;
      seen = values;
      theme = themeNow();
      const image = g.createImageData(ACROSS, DOWN);
      const [red = 0, green = 0, blue = 0] = rgbOf(inkNow("text"));
      const [r0 = 0, g0 = 0, b0 = 0] = rgbOf(inkNow("row"));
      for (let n = 0; n < 512; n++) {
        const share = (values[n] ?? 0) / 255;
        image.data.set(
          [r0 + (red - r0) * share, g0 + (green - g0) * share, b0 + (blue - b0) * share, 255],
          n * 4,
        );
      }
      g.putImageData(image, 0, 0);
    };
    return eachFrame(draw);
  }, [universe]);
  return (
    <canvas
      data-live
      ref={canvas}
      width={ACROSS}
      height={DOWN}
      role="img"
      aria-label={`U${universe} as sent`}
      style={{ width: 48, height: 20, imageRendering: "pixelated", display: "block" }}
    />
  );
}

const rgbOf = (hex: string): number[] => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
