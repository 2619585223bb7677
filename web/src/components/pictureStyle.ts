import type { CSSProperties } from "react";
import { ink } from "../theme/tokens";

/** How a picture's canvas lies on the page: squares stay squares unless it is to look smooth. */
export const pictureStyle = (width: number, height: number, smooth: boolean): CSSProperties => ({
  width,
  height,
  imageRendering: smooth ? "auto" : "pixelated",
  background: ink.lamp,
  borderRadius: 2,
  display: "block",
  flex: "none",
});
