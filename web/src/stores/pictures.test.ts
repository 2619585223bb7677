import { expect, it } from "vitest";
import { latest, levels, pictures, takeMessage } from "./pictures";

const ID = "11111111-2222-4333-8444-555555555555";

function idBytes(): number[] {
  return (ID.replaceAll("-", "").match(/../g) ?? []).map((hex) => Number.parseInt(hex, 16));
}

/** A message as src/heliograph/api/preview.py packs it: "<BBHIQq", then "<16sHHHBB" and pixels a picture. */
function message(
  kind: number,
  flag: number,
  count: number,
  extra: number,
  frame: bigint,
  show: bigint,
  rest: number[],
): ArrayBuffer {
  const bytes = new Uint8Array(24 + rest.length);
  const view = new DataView(bytes.buffer);
  view.setUint8(0, kind);
  view.setUint8(1, flag);
  view.setUint16(2, count, true);
  view.setUint32(4, extra, true);
  view.setBigUint64(8, frame, true);
  view.setBigInt64(16, show, true);
  bytes.set(rest, 24);
  return bytes.buffer;
}

it("takes pictures in, with frame number, size and state", () => {
  const head = [...idBytes(), 2, 0, 1, 0, 3, 0, 1, 0];
  takeMessage(message(1, 0, 1, 0, 77n, 2_500_000_000n, [...head, 1, 2, 3, 4, 5, 6]));
  expect(latest.frame).toEqual({ number: 77, showSeconds: 2.5 });
  const picture = pictures.get(ID);
  expect(picture).toMatchObject({ columns: 2, rows: 1, step: 3, state: "partly" });
  expect([...(picture?.rgb ?? [])]).toEqual([1, 2, 3, 4, 5, 6]);
});

it("forgets the picture of a matrix that is gone", () => {
  takeMessage(message(1, 0, 0, 0, 78n, 0n, []));
  expect(pictures.size).toBe(0);
});

it("takes levels in, and whether they were sent", () => {
  const values = Array.from({ length: 512 }, (_, n) => n % 256);
  takeMessage(message(2, 1, 0, 7962, 79n, 0n, values));
  expect(levels.get(7962)).toMatchObject({ sent: true, frame: 79 });
  expect(levels.get(7962)?.values[511]).toBe(255);
  takeMessage(message(2, 0, 0, 1, 80n, 0n, values));
  expect(levels.get(1)?.sent).toBe(false);
});
