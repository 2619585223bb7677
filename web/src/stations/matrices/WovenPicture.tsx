import { useEffect, useRef } from "react";
import { inkNow } from "../../theme/tokens";

interface PictureProps {
  squares: [number, number][];
  width: number;
  height: number;
  /** In the middle of the station, where nothing else stands yet. */
  large?: boolean;
}

const ROOM = { width: 288, height: 96 };
const LARGE = { width: 640, height: 420 };
const RING_FROM = 6;

/** What a weave will do: its squares, and the strand from the first cell on. */
export function WovenPicture({ squares, width, height, large }: PictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const room = large ? LARGE : ROOM;
  const scale = Math.min(room.width / width, room.height / height, 40);
  const [w, h] = [Math.max(2, width * scale), Math.max(2, height * scale)];
  useEffect(() => {
    const target = canvas.current;
    const g = target?.getContext("2d");
    if (!target || !g) return;
    const ratio = window.devicePixelRatio;
    target.width = w * ratio;
    target.height = h * ratio;
    g.scale(ratio, ratio);
    g.fillStyle = inkNow("lamp");
    g.fillRect(0, 0, w, h);
    const at = ([x, y]: [number, number]): [number, number] => [(x + 0.5) * scale, (y + 0.5) * scale];
    g.strokeStyle = inkNow("sea");
    g.lineWidth = Math.max(0.6, Math.min(1.5, scale / 8));
    g.beginPath();
    squares.forEach((square, n) => {
      const [x, y] = at(square);
      if (n) g.lineTo(x, y);
      else g.moveTo(x, y);
    });
    g.stroke();
    g.fillStyle = inkNow("text");
    for (const square of squares) {
      const [x, y] = at(square);
      g.fillRect(
        x - scale * 0.12,
        y - scale * 0.12,
        Math.max(0.8, scale * 0.24),
        Math.max(0.8, scale * 0.24),
      );
    }
    const [first] = squares;
    if (!first) return;
    g.strokeStyle = inkNow("brass");
    g.lineWidth = 2;
    g.beginPath();
    g.arc(...at(first), Math.max(3, Math.min(RING_FROM, scale * 0.4)), 0, 7);
    g.stroke();
  }, [squares, scale, w, h]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`The weave: ${width} by ${height} squares, ${squares.length} cells`}
      style={{ display: "block", width: w, height: h, margin: "14px 16px 0" }}
    />
  );
}
