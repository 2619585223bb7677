import { Box } from "@mui/material";
import { useEffect, useRef } from "react";
import type { FixtureView } from "../../api/client";
import { Cap, Part } from "../../components/atoms";
import { levels } from "../../stores/pictures";
import { inkNow, mono } from "../../theme/tokens";

const CELL = { width: 53, height: 30 };
const ACROSS = 6;

/** The channels of the fixture's first universe as sent, cell by cell: number, and a fill as high as the value. */
export function ChannelRuler({ fixture, universe }: { fixture: FixtureView; universe: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [, first, last] = fixture.spans[0] ?? [0, 1, 1];
  const per = Math.max(1, Math.floor(fixture.footprint / Math.max(1, fixture.cells)));
  const cells = Math.ceil((last - first + 1) / per);
  const rows = Math.ceil(cells / ACROSS);
  useEffect(() => {
    let handle = 0;
    const draw = () => {
      handle = requestAnimationFrame(draw);
      const target = canvas.current;
      const context = target?.getContext("2d");
      if (!target || !context) return;
      const scale = window.devicePixelRatio;
      target.width = ACROSS * CELL.width * scale;
      target.height = rows * CELL.height * scale;
      context.scale(scale, scale);
      const values = levels.get(universe)?.values;
      context.font = `500 11.5px ${mono}`;
      for (let cell = 0; cell < cells; cell++) {
        const x = (cell % ACROSS) * CELL.width;
        const y = Math.floor(cell / ACROSS) * CELL.height;
        const width = (CELL.width - 8) / per;
        for (let n = 0; n < per && first + cell * per + n <= last; n++) {
          const level = (values?.[first - 1 + cell * per + n] ?? 0) / 255;
          context.fillStyle = inkNow("row");
          context.fillRect(x + n * width, y, width - 1, 14);
          context.fillStyle = ["#d8665a", "#67b678", "#6f92e6"][n % 3] ?? inkNow("sea");
          if (per !== 3) context.fillStyle = inkNow("sea");
          context.fillRect(x + n * width, y + 14 * (1 - level), width - 1, 14 * level);
        }
        context.fillStyle = inkNow("soft");
        context.fillText(String(first + cell * per), x, y + 25);
      }
    };
    draw();
    return () => cancelAnimationFrame(handle);
  }, [universe, first, last, per, cells, rows]);
  return (
    <Part>
      <Box sx={{ display: "flex", justifyContent: "space-between", mb: 1 }}>
        <Box sx={{ fontWeight: 600 }}>Channels</Box>
        <Cap>filled as sent on U{universe}</Cap>
      </Box>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`Channels of ${fixture.name} as sent`}
        style={{ width: ACROSS * CELL.width, height: rows * CELL.height, display: "block" }}
      />
    </Part>
  );
}
