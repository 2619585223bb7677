import type { WholeShow } from "../api/client";

export type Page = WholeShow["pages"][number];
export type Item = Page["items"][number];
export type Shape = "hold" | "turn" | "on" | "off" | "beats" | "plain";

/** The outline of a pad says what a touch does. */
export function shapeOf(item: Item): Shape {
  const [touch, lift] = [item.touch.do, item.lift.do];
  if (touch === "beats") return "beats";
  if (lift !== "nothing") return "hold";
  if (touch === "turn") return "turn";
  if (touch === "on" || touch === "value") return "on";
  return touch === "off" ? "off" : "plain";
}

const TEETH = 8;
const TOOTH = "11px";

/** The outline as a CSS clip path; "" where round corners do. */
export function clipOf(shape: Shape): string {
  switch (shape) {
    case "turn":
      return "polygon(0 0, 100% 0, 100% calc(50% - 10px), calc(100% - 9px) 50%, 100% calc(50% + 10px), 100% 100%, 0 100%, 0 calc(50% + 10px), 9px 50%, 0 calc(50% - 10px))";
    case "on":
      return "polygon(0 0, calc(100% - 24px) 0, 100% 50%, calc(100% - 24px) 100%, 0 100%)";
    case "off":
      return "polygon(18px 0, calc(100% - 18px) 0, 100% 18px, 100% calc(100% - 18px), calc(100% - 18px) 100%, 18px 100%, 0 calc(100% - 18px), 0 18px)";
    case "beats":
      return `polygon(0 0, 100% 0, 100% 100%, ${teeth()}, 0 100%)`;
    default:
      return "";
  }
}

/** Notches along the lower edge, right to left, one less than there are teeth. */
function teeth(): string {
  return Array.from({ length: TEETH - 1 }, (_, n) => {
    const at = 100 - ((n + 1) * 100) / TEETH;
    const low = `calc(100% - ${TOOTH})`;
    return `calc(${at}% + 4px) 100%, calc(${at}% + 4px) ${low}, calc(${at}% - 4px) ${low}, calc(${at}% - 4px) 100%`;
  }).join(", ");
}

export const HUES: Record<Item["hue"], string> = {
  rope: "#c99a72",
  kelp: "#93ba5e",
  slate: "#7aa2d8",
  heather: "#b694d9",
  bone: "#d9d4c3",
  ice: "#7cc8dc",
};

export const SAID_OF_SHAPES: Record<Shape, string> = {
  hold: "held while a finger is on it",
  turn: "turns over by a touch",
  on: "begins by a touch",
  off: "ends by a touch",
  beats: "goes for some beats",
  plain: "does nothing by a touch",
};
