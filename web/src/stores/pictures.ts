import { takeDriven } from "./driven";

/**
 * Pictures and levels as they arrive, outside React: a canvas reads the latest once per animation
 * frame. Layout of the messages: src/heliograph/api/preview.py.
 */
export interface Picture {
  columns: number;
  rows: number;
  /** Every step-th square is in the picture. */
  step: number;
  state: "sent" | "partly" | "not sent";
  rgb: Uint8Array;
}

export interface Levels {
  sent: boolean;
  frame: number;
  values: Uint8Array;
}

export interface Frame {
  number: number;
  showSeconds: number;
}

/** A picture from the preview process. Layout: src/heliograph/preview/pictures.py. */
export interface Preview {
  columns: number;
  rows: number;
  rgb: Uint8Array;
  /** What it shows is not on the wire. */
  onlyHere: boolean;
  /** Largest difference between asked and sent, in 255ths; -1 where the two cannot be compared. */
  difference: number;
  frame: number;
}

const PREVIEW_KINDS = ["", "line", "look", "painted", "cells"] as const;
export type PreviewKind = "line" | "look" | "painted" | "cells";

const HEAD = 24;
const PICTURE_HEAD = 24;
const PREVIEW_HEAD = 28;
const STATES = ["sent", "partly", "not sent"] as const;

export const pictures = new Map<string, Picture>();
export const previews = new Map<string, Preview>();
export const previewKey = (kind: PreviewKind, id: string): string => `${kind} ${id}`;
export const levels = new Map<number, Levels>();
/** The colour of every cell of the rig, in the order of the fixtures; only while it is watched. */
export const cells: { rgb: Uint8Array } = { rgb: new Uint8Array() };
/** The newest frame that is shown, and when (local time) it came. */
export const latest: { frame: Frame; at: number } = { frame: { number: 0, showSeconds: 0 }, at: 0 };

function uuidAt(bytes: Uint8Array, at: number): string {
  const hex = [...bytes.subarray(at, at + 16)].map((b) => b.toString(16).padStart(2, "0")).join("");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

/** Takes one binary message in. */
export function takeMessage(buffer: ArrayBuffer): void {
  const view = new DataView(buffer);
  const bytes = new Uint8Array(buffer);
  const kind = view.getUint8(0);
  const frame = {
    number: Number(view.getBigUint64(8, true)),
    showSeconds: Number(view.getBigInt64(16, true)) / 1e9,
  };
  if (kind === 2) {
    const universe = view.getUint32(4, true);
    levels.set(universe, {
      sent: view.getUint8(1) === 1,
      frame: frame.number,
      values: bytes.subarray(24, 536),
    });
    return;
  }
  if (kind === 4) {
    cells.rgb = bytes.subarray(HEAD, HEAD + view.getUint32(4, true) * 3);
    return;
  }
  if (kind === 3) {
    takePreviews(view, bytes, frame.number);
    return;
  }
  latest.frame = frame;
  latest.at = performance.now();
  let at = HEAD;
  const seen = new Set<string>();
  for (let n = view.getUint16(2, true); n > 0; n--) {
    const id = uuidAt(bytes, at);
    const columns = view.getUint16(at + 16, true);
    const rows = view.getUint16(at + 18, true);
    const step = view.getUint16(at + 20, true);
    const state = STATES[view.getUint8(at + 22)] ?? "not sent";
    const size = columns * rows * 3;
    pictures.set(id, {
      columns,
      rows,
      step,
      state,
      rgb: bytes.subarray(at + PICTURE_HEAD, at + PICTURE_HEAD + size),
    });
    seen.add(id);
    at += PICTURE_HEAD + size;
  }
  for (const id of pictures.keys()) if (!seen.has(id)) pictures.delete(id);
}

function takePreviews(view: DataView, bytes: Uint8Array, frame: number): void {
  let at = HEAD;
  const seen = new Set<string>();
  for (let n = view.getUint16(2, true); n > 0; n--) {
    const columns = view.getUint16(at + 16, true);
    const rows = view.getUint16(at + 18, true);
    const kind = PREVIEW_KINDS[view.getUint8(at + 22)] || "line";
    const key = previewKey(kind, uuidAt(bytes, at));
    const size = columns * rows * 3;
    previews.set(key, {
      columns,
      rows,
      rgb: bytes.subarray(at + PREVIEW_HEAD, at + PREVIEW_HEAD + size),
      onlyHere: view.getUint8(at + 23) === 1,
      difference: view.getInt16(at + 24, true),
      frame,
    });
    seen.add(key);
    at += PREVIEW_HEAD + size;
  }
  for (const key of previews.keys()) if (!seen.has(key)) previews.delete(key);
  takeDriven(view, at, view.getUint32(4, true), (from) => uuidAt(bytes, from));
}
