import { useEffect, useRef } from "react";
import { latest, pictures } from "../stores/pictures";
import { ink } from "../theme/tokens";

interface PictureProps {
  matrix: string;
  label: string;
  /** Size on the screen in px; the picture is drawn one pixel a square and scaled. */
  width: number;
  height: number;
}

/** A matrix decoded from the bytes that were sent, drawn once per animation frame. */
export function PictureCanvas({ matrix, label, width, height }: PictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let handle = 0;
    let seen = -1;
    const draw = () => {
      handle = requestAnimationFrame(draw);
      const picture = pictures.get(matrix);
      const target = canvas.current;
      if (!picture || !target || latest.frame.number === seen) return;
      seen = latest.frame.number;
      if (target.width !== picture.columns || target.height !== picture.rows) {
        target.width = picture.columns;
        target.height = picture.rows;
      }
      const context = target.getContext("2d");
      if (!context) return;
      const image = context.createImageData(picture.columns, picture.rows);
      const { data } = image;
      const { rgb } = picture;
      for (let from = 0, to = 0; from < rgb.length; from += 3, to += 4) {
        data[to] = rgb[from] ?? 0;
        data[to + 1] = rgb[from + 1] ?? 0;
        data[to + 2] = rgb[from + 2] ?? 0;
        data[to + 3] = 255;
      }
      context.putImageData(image, 0, 0);
      target.dataset.frame = String(seen);
      target.dataset.state = picture.state;
    };
    draw();
    return () => cancelAnimationFrame(handle);
  }, [matrix]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      style={{
        width,
        height,
        imageRendering: "pixelated",
        background: ink.lamp,
        borderRadius: 2,
        display: "block",
      }}
    />
  );
}
