import { inkNow, mono } from "../theme/tokens";

export type Square = readonly [number, number];

export interface ChaseDrawing {
  columns: number;
  rows: number;
  /** Side of a square, px. */
  cell: number;
  picture: ImageData | undefined;
  /** The frame played before it, drawn as lines beneath: it cannot pass for a dim lamp. */
  before: ImageData | undefined;
  labels: ReadonlyMap<number, string>;
  /** Squares that are being drawn, in this colour ("" clear), until the server has them. */
  touched: ReadonlySet<number>;
  colour: string;
  cursor: Square | null;
  /** A line or rectangle that is being drawn. */
  span: { from: Square; to: Square; shape: "line" | "rectangle" | "move" } | null;
}

const SMALL = 8;
const WITH_LABELS = 30;
const LABEL_HIGH = 20;

function colourAt(picture: ImageData | undefined, at: number): string {
  if (!picture?.data[at * 4 + 3]) return "";
  const [red, green, blue] = picture.data.subarray(at * 4, at * 4 + 3);
  return `rgb(${red} ${green} ${blue})`;
}

/** One frame as it is drawn: what is set is filled, what is clear is dashed. */
export function drawChase(context: CanvasRenderingContext2D, drawing: ChaseDrawing): void {
  const { columns, rows, cell } = drawing;
  context.fillStyle = inkNow("lamp");
  context.fillRect(0, 0, columns * cell, rows * cell);
  if (cell < SMALL) drawSmall(context, drawing);
  else drawSquares(context, drawing);
  const { cursor, span } = drawing;
  context.strokeStyle = inkNow("text");
  context.lineWidth = 2;
  if (cursor) context.strokeRect(cursor[0] * cell + 1, cursor[1] * cell + 1, cell - 2, cell - 2);
  if (span) drawSpan(context, span, cell);
}

/** Only some squares of it anew: what a pen just went over. */
export function drawTouched(
  context: CanvasRenderingContext2D,
  drawing: ChaseDrawing,
  squares: readonly number[],
): void {
  const { columns, cell, colour } = drawing;
  if (cell >= SMALL) {
    for (const at of squares) {
      context.fillStyle = inkNow("lamp");
      context.fillRect((at % columns) * cell, Math.floor(at / columns) * cell, cell, cell);
      drawSquare(context, drawing, at);
    }
    return;
  }
  context.fillStyle = colour || inkNow("lamp");
  for (const at of squares)
    context.fillRect((at % columns) * cell, Math.floor(at / columns) * cell, cell, cell);
}

function drawSpan(
  context: CanvasRenderingContext2D,
  { from, to, shape }: NonNullable<ChaseDrawing["span"]>,
  cell: number,
): void {
  context.strokeStyle = inkNow("brass");
  context.lineWidth = 2;
  if (shape === "rectangle") {
    const [x, y] = [Math.min(from[0], to[0]), Math.min(from[1], to[1])];
    const [w, h] = [Math.abs(to[0] - from[0]) + 1, Math.abs(to[1] - from[1]) + 1];
    context.strokeRect(x * cell + 1, y * cell + 1, w * cell - 2, h * cell - 2);
    return;
  }
  context.beginPath();
  context.moveTo((from[0] + 0.5) * cell, (from[1] + 0.5) * cell);
  context.lineTo((to[0] + 0.5) * cell, (to[1] + 0.5) * cell);
  context.stroke();
}

function drawSmall(context: CanvasRenderingContext2D, drawing: ChaseDrawing): void {
  const { columns, rows, cell, picture, touched, colour } = drawing;
  if (picture) {
    const plain = new OffscreenCanvas(columns, rows);
    plain.getContext("2d")?.putImageData(picture, 0, 0);
    context.imageSmoothingEnabled = false;
    context.drawImage(plain, 0, 0, columns * cell, rows * cell);
  }
  context.fillStyle = colour || inkNow("lamp");
  for (const at of touched)
    context.fillRect((at % columns) * cell, Math.floor(at / columns) * cell, cell, cell);
}

function drawSquares(context: CanvasRenderingContext2D, drawing: ChaseDrawing): void {
  for (let at = 0; at < drawing.columns * drawing.rows; at++) drawSquare(context, drawing, at);
}

function drawSquare(context: CanvasRenderingContext2D, drawing: ChaseDrawing, at: number): void {
  const { columns, cell, picture, before, labels, touched, colour } = drawing;
  const edge = Math.max(Math.round(cell * 0.1), 1);
  const side = cell - 2 * edge;
  const [x, y] = [(at % columns) * cell + edge, Math.floor(at / columns) * cell + edge];
  const under = colourAt(before, at);
  if (under) {
    context.fillStyle = under;
    const first = labels.has(at) && cell >= WITH_LABELS ? LABEL_HIGH : 2; // the label stays readable
    for (let line = first; line < side; line += 4) context.fillRect(x - edge + 1, y + line, side, 1);
  }
  const own = touched.has(at) ? colour : colourAt(picture, at);
  if (own) {
    context.fillStyle = own;
    context.beginPath();
    context.roundRect(x, y, side, side, Math.min(4, side / 6));
    context.fill();
  } else {
    context.strokeStyle = inkNow("hair2");
    context.lineWidth = 1;
    context.setLineDash([3, 3]);
    context.strokeRect(x + 0.5, y + 0.5, side - 1, side - 1);
    context.setLineDash([]);
  }
  const label = labels.get(at);
  if (!label || cell < WITH_LABELS) return;
  context.font = `500 ${Math.min(12, Math.round(cell / 4))}px ${mono}`;
  context.textBaseline = "top";
  context.fillStyle = own && isLight(own) ? "#0b1113" : own ? "#dbe6e3" : inkNow("soft");
  context.fillText(label, x + 5, y + 5, side - 8);
}

/** Whether dark letters are read on a colour (relative luminance over 0.4, in its own numbers). */
function isLight(colour: string): boolean {
  const [red = 0, green = 0, blue = 0] = (colour.match(/\d+/g) ?? []).map(Number);
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue > 100;
}
