import { Box } from "@mui/material";
import { useEffect, useRef } from "react";
import type { MatrixView } from "../../api/client";
import { drawPicture } from "../../canvas/drawPicture";
import { colourAt } from "../../canvas/strandPainter";
import type { Bead } from "../../model/placements";
import { latest, pictures } from "../../stores/pictures";
import { inkNow } from "../../theme/tokens";

/** Up to so many cells are drawn as separate lamps. */
const DISCS = 4000;

interface OverviewProps {
  matrix: MatrixView;
  beads: Bead[];
  /** The part that is enlarged, in squares. */
  part: React.RefObject<{ x: number; y: number; w: number; h: number }>;
  maxWidth: number;
  maxHeight: number;
  onGo: (x: number, y: number) => void;
}

/** The whole matrix in its true proportion, with the strand and a frame round what is enlarged. */
export function Overview({ matrix, beads, part, maxWidth, maxHeight, onGo }: OverviewProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const small = useRef<OffscreenCanvas | null>(null);
  const scale = Math.min(maxWidth / matrix.width, maxHeight / matrix.height);
  const [width, height] = [Math.max(4, matrix.width * scale), Math.max(4, matrix.height * scale)];
  useEffect(() => {
    let handle = 0;
    let seen = "";
    const draw = () => {
      handle = requestAnimationFrame(draw);
      const target = canvas.current;
      const frame = part.current;
      const state = `${latest.frame.number} ${frame.x} ${frame.y} ${frame.w}`;
      if (!target || state === seen) return;
      seen = state;
      const ratio = window.devicePixelRatio;
      target.width = width * ratio;
      target.height = height * ratio;
      const g = target.getContext("2d");
      if (!g) return;
      g.scale(ratio, ratio);
      g.fillStyle = inkNow("lamp");
      g.fillRect(0, 0, width, height);
      const picture = pictures.get(matrix.id);
      if (picture && (beads.length > DISCS || scale < 2.5)) {
        // Thousands of discs a frame would cost more than the whole station: one image, squares as pixels.
        small.current ??= new OffscreenCanvas(1, 1);
        drawPicture(
          small.current as unknown as HTMLCanvasElement,
          picture.columns,
          picture.rows,
          picture.rgb,
        );
        g.imageSmoothingEnabled = false;
        g.drawImage(small.current, 0, 0, width, height);
      } else
        for (const bead of beads) {
          const [r, gr, b] = colourAt(picture, bead.x, bead.y);
          g.fillStyle = `rgb(${r} ${gr} ${b})`;
          g.beginPath();
          g.arc((bead.x + 0.5) * scale, (bead.y + 0.5) * scale, Math.max(0.8, scale * 0.4), 0, 7);
          g.fill();
        }
      g.strokeStyle = inkNow("brass");
      g.lineWidth = 1.5;
      g.strokeRect(frame.x * scale, frame.y * scale, frame.w * scale, frame.h * scale);
    };
    draw();
    return () => cancelAnimationFrame(handle);
  }, [matrix.id, beads, scale, width, height, part]);
  const go = (event: React.PointerEvent<HTMLCanvasElement>) => {
    if (event.buttons !== 1) return;
    const box = event.currentTarget.getBoundingClientRect();
    onGo((event.clientX - box.left) / scale, (event.clientY - box.top) / scale);
  };
  return (
    <Box
      component="canvas"
      ref={canvas}
      role="img"
      aria-label={`All of ${matrix.name}`}
      onPointerDown={go}
      onPointerMove={go}
      sx={{ width, height, display: "block", cursor: "move", flex: "none" }}
    />
  );
}
