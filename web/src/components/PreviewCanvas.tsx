import { useEffect, useRef } from "react";
import { drawLamps, drawPicture } from "../canvas/drawPicture";
import { eachFrame } from "../canvas/eachFrame";
import { type PreviewKind, previewKey, previews } from "../stores/pictures";
import { pictureStyle } from "./pictureStyle";

interface PreviewProps {
  kind: PreviewKind;
  id: string;
  /** "" where the words beside it say what it is. */
  label: string;
  width: number;
  height: number;
  /** Draws each cell as a lamp of its own. */
  lamps?: boolean;
  smooth?: boolean;
}

/** A picture from the preview process: what is not, or not yet, on the wire. */
export function PreviewCanvas({ kind, id, label, width, height, lamps, smooth }: PreviewProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let seen: Uint8Array | null = null;
    const draw = () => {
      const picture = previews.get(previewKey(kind, id));
      const target = canvas.current;
      if (!picture || !target || picture.rgb === seen) return;
      seen = picture.rgb;
      const { columns, rows, rgb } = picture;
      if (lamps) drawLamps(target, columns, rows, rgb, width / columns);
      else drawPicture(target, columns, rows, rgb);
      target.dataset.frame = String(picture.frame);
      target.dataset.only = picture.onlyHere ? "here" : "";
    };
    return eachFrame(draw);
  }, [kind, id, lamps, width]);
  return (
    <canvas
      data-live
      ref={canvas}
      {...(label ? { role: "img", "aria-label": label } : { "aria-hidden": true })}
      style={pictureStyle(width, height, Boolean(smooth || lamps))}
    />
  );
}
