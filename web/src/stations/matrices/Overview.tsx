import { Box } from "@mui/material";
import { useEffect, useMemo, useRef } from "react";
import type { MatrixView } from "../../api/client";
import { drawPicture } from "../../canvas/drawPicture";
import { eachFrame } from "../../canvas/eachFrame";
import { colourAt } from "../../canvas/strandPainter";
import type { Bead } from "../../model/placements";
import { latest, pictures } from "../../stores/pictures";
import { inkNow, mono, themeNow } from "../../theme/tokens";

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

/** Over the matrix its universes are named; right of it the beam goes to what is enlarged, px. */
const NAMES = 16;
const BEAM = 26;
const NAME_PX = 22;

/** The whole matrix in its true proportion, its universes named, with a beam from what is enlarged to where it is. */
export function Overview({ matrix, beads, part, maxWidth, maxHeight, onGo }: OverviewProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const small = useRef<OffscreenCanvas | null>(null);
  const scale = Math.min(maxWidth / matrix.width, (maxHeight - NAMES) / matrix.height);
  const [width, height] = [Math.max(4, matrix.width * scale), Math.max(4, matrix.height * scale)];
  const names = useMemo(() => universesOver(beads, scale), [beads, scale]);
  useEffect(() => {
    let seen = "";
    const draw = () => {
      const target = canvas.current;
      const frame = part.current;
      const state = `${latest.frame.number} ${frame.x} ${frame.y} ${frame.w} ${themeNow()}`;
      if (!target || state === seen) return;
      seen = state;
      const ratio = window.devicePixelRatio;
      const [across, down] = [Math.floor((width + BEAM) * ratio), Math.floor((height + NAMES) * ratio)];
      if (target.width !== across || target.height !== down) {
        target.width = across;
        target.height = down;
      }
      const g = target.getContext("2d");
      if (!g) return;
      g.setTransform(ratio, 0, 0, ratio, 0, 0);
      g.clearRect(0, 0, width + BEAM, height + NAMES);
      g.font = `500 11px ${mono}`;
      g.fillStyle = inkNow("soft");
      for (const { name, x } of names) g.fillText(name, x, 11);
      g.translate(0, NAMES);
      g.fillStyle = inkNow("lamp");
      g.fillRect(0, 0, width, height);
      const picture = pictures.get(matrix.id);
      if (picture && (beads.length > DISCS || scale < 2.5)) {
        // Thousands of discs a frame would cost more than the whole station: one image, squares as pixels.
        small.current ??= new OffscreenCanvas(1, 1);
        drawPicture(small.current, picture.columns, picture.rows, picture.rgb);
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
      paintBeam(g, [(frame.x + frame.w) * scale, frame.y * scale, frame.h * scale], width + BEAM, height);
    };
    return eachFrame(draw);
  }, [matrix.id, beads, scale, width, height, part, names]);
  const go = (event: React.PointerEvent<HTMLCanvasElement>) => {
    if (event.buttons !== 1) return;
    const box = event.currentTarget.getBoundingClientRect();
    onGo((event.clientX - box.left) / scale, (event.clientY - box.top - NAMES) / scale);
  };
  return (
    <Box
      component="canvas"
      ref={canvas}
      role="img"
      aria-label={`All of ${matrix.name}`}
      onPointerDown={go}
      onPointerMove={go}
      sx={{
        width: width + BEAM,
        height: height + NAMES,
        display: "block",
        cursor: "move",
        flex: "none",
        mr: -1.5,
      }}
    />
  );
}

/** Each universe once, over where its strand begins; left out where its name would stand on another. */
function universesOver(beads: Bead[], scale: number): { name: string; x: number }[] {
  const found = new Map<number, number>();
  for (const bead of beads) {
    const universe = Math.floor(bead.position / 512) + 1;
    if (Number.isFinite(universe)) found.set(universe, Math.min(found.get(universe) ?? bead.x, bead.x));
  }
  const names: { name: string; x: number }[] = [];
  for (const [universe, x] of [...found].sort((a, b) => a[1] - b[1])) {
    const before = names.at(-1)?.x ?? Number.NEGATIVE_INFINITY;
    if (x * scale - before >= NAME_PX) names.push({ name: `U${universe}`, x: x * scale });
  }
  return names;
}

/** From the frame round what is enlarged to all of what stands beside it. */
function paintBeam(
  g: CanvasRenderingContext2D,
  [x, top, tall]: [number, number, number],
  right: number,
  height: number,
): void {
  const light = g.createLinearGradient(x, 0, right, 0);
  light.addColorStop(0, `${inkNow("brass")}55`);
  light.addColorStop(1, `${inkNow("brass")}18`);
  g.fillStyle = light;
  g.beginPath();
  g.moveTo(x, top);
  g.lineTo(right, 0);
  g.lineTo(right, height);
  g.lineTo(x, top + tall);
  g.closePath();
  g.fill();
}
