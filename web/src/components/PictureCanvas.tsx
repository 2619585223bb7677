import { useEffect, useRef } from "react";
import { drawLamps, drawPicture } from "../canvas/drawPicture";
import { eachFrame } from "../canvas/eachFrame";
import { latest, pictures } from "../stores/pictures";
import { pictureStyle } from "./pictureStyle";

interface PictureProps {
  matrix: string;
  label: string;
  /** Size on the screen in px; the picture is drawn one pixel a square and scaled. */
  width: number;
  height: number;
  /** Draws each cell as a lamp of its own. */
  lamps?: boolean;
}

/** A matrix decoded from the bytes that were sent, drawn once per animation frame. */
export function PictureCanvas({ matrix, label, width, height, lamps }: PictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let seen = -1;
    const draw = () => {
      const picture = pictures.get(matrix);
      const target = canvas.current;
      if (!picture || !target || latest.frame.number === seen) return;
      seen = latest.frame.number;
      if (lamps) drawLamps(target, picture.columns, picture.rows, picture.rgb, width / picture.columns);
      else drawPicture(target, picture.columns, picture.rows, picture.rgb);
      target.dataset.frame = String(seen);
      target.dataset.state = picture.state;
    };
    return eachFrame(draw);
  }, [matrix, lamps, width]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      data-live
      style={pictureStyle(width, height, Boolean(lamps))}
    />
  );
}
