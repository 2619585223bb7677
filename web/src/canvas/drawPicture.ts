/** Draws rows of RGB bytes on a canvas, one canvas pixel a square; the page scales it. */
export function drawPicture(target: HTMLCanvasElement, columns: number, rows: number, rgb: Uint8Array): void {
  if (target.width !== columns || target.height !== rows) {
    target.width = columns;
    target.height = rows;
  }
  const context = target.getContext("2d");
  if (!context) return;
  const image = context.createImageData(columns, rows);
  const { data } = image;
  for (let from = 0, to = 0; from < rgb.length; from += 3, to += 4) {
    data[to] = rgb[from] ?? 0;
    data[to + 1] = rgb[from + 1] ?? 0;
    data[to + 2] = rgb[from + 2] ?? 0;
    data[to + 3] = 255;
  }
  context.putImageData(image, 0, 0);
}

/** Draws cells as separate lamps: a disc each on a dark ground, `size` px from one to the next. */
export function drawLamps(
  target: HTMLCanvasElement,
  columns: number,
  rows: number,
  rgb: Uint8Array,
  size: number,
): void {
  drawPicture(target, columns, rows, rgb);
  if (size < 4) return; // too small to tell one from the next: plain squares
  const small = new OffscreenCanvas(columns, rows);
  small.getContext("2d")?.drawImage(target, 0, 0);
  const scale = Math.round(size);
  target.width = columns * scale;
  target.height = rows * scale;
  const context = target.getContext("2d");
  if (!context) return;
  context.imageSmoothingEnabled = false;
  context.drawImage(small, 0, 0, target.width, target.height);
  context.globalCompositeOperation = "destination-in";
  context.fillStyle = context.createPattern(disc(scale), "repeat") ?? "#000";
  context.fillRect(0, 0, target.width, target.height);
}

const discs = new Map<number, OffscreenCanvas>();

function disc(size: number): OffscreenCanvas {
  const known = discs.get(size);
  if (known) return known;
  const made = new OffscreenCanvas(size, size);
  const context = made.getContext("2d");
  if (context) {
    context.beginPath();
    context.arc(size / 2, size / 2, size * 0.42, 0, 2 * Math.PI);
    context.fill();
  }
  discs.set(size, made);
  return made;
}
