type Canvas = HTMLCanvasElement | OffscreenCanvas;

/** The picture that is filled and put: making one for each frame left megabytes a second to be cleared away. */
const images = new Map<string, ImageData>();

/** Of so many sizes at most. */
const MOST_IMAGES = 40;

/** Gives it that size, where it has another: that alone costs a new layout. */
function sizeTo(target: Canvas, width: number, height: number): void {
  if (target.width !== width) target.width = width;
  if (target.height !== height) target.height = height;
}

function imageOf(columns: number, rows: number): ImageData {
  const key = `${columns} ${rows}`;
  let image = images.get(key);
  if (!image) {
    if (images.size >= MOST_IMAGES) images.clear();
    image = new ImageData(columns, rows);
    images.set(key, image);
  }
  return image;
}

/** Draws rows of RGB bytes on a canvas, one canvas pixel a square; the page scales it. */
export function drawPicture(target: Canvas, columns: number, rows: number, rgb: Uint8Array): void {
  sizeTo(target, columns, rows);
  const context = target.getContext("2d") as CanvasRenderingContext2D | null;
  if (!context) return;
  const image = imageOf(columns, rows);
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
  const plain = size < 4; // too small to tell one from the next: squares
  drawPicture(plain ? target : small, columns, rows, rgb);
  if (plain) return;
  const scale = Math.round(size);
  sizeTo(target, columns * scale, rows * scale);
  const context = target.getContext("2d");
  if (!context) return;
  context.imageSmoothingEnabled = false;
  context.globalCompositeOperation = "copy";
  context.drawImage(small, 0, 0, target.width, target.height);
  context.globalCompositeOperation = "destination-in";
  context.fillStyle = context.createPattern(disc(scale), "repeat") ?? "#000";
  context.fillRect(0, 0, target.width, target.height);
}

/** Where lamps are drawn small, before they are enlarged. */
const small = new OffscreenCanvas(1, 1);

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
