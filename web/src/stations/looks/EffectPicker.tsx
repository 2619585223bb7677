import { Box } from "@mui/material";
import { useRef, useState } from "react";
import type { EffectView, MatrixView } from "../../api/client";
import { useEffects } from "../../api/show";
import { Cap } from "../../components/atoms";
import { effectsFor } from "../../model/effects";
import { ink } from "../../theme/tokens";

interface PickerProps {
  effects: EffectView[];
  chosen: string;
  matrix: MatrixView | undefined;
  onChoose: (effect: string) => unknown;
  /** The one the arrows have come to is tried on the lamps, and not kept. */
  onTry?: (effect: string) => void;
  onClose?: () => void;
  /** It was opened to find one: typing begins at once. */
  focused?: boolean;
  /** What stands beside the field. */
  beside?: React.ReactNode;
}

const ARROWS: Record<string, "left" | "right" | "up" | "down"> = {
  ArrowLeft: "left",
  ArrowRight: "right",
  ArrowUp: "up",
  ArrowDown: "down",
};

/**
 * The effects as moving miniatures on a matrix of this shape, found by their name or by plain words; one that does not
 * suit the matrix says why. Arrows go from one to another and try it where it can be tried, Enter keeps it, Escape leaves
 * all as it was.
 */
export function EffectPicker({
  effects,
  chosen,
  matrix,
  onChoose,
  onTry,
  onClose,
  focused = true,
  beside,
}: PickerProps) {
  const [text, setText] = useState("");
  const grid = useRef<HTMLDivElement>(null);
  const found = effectsFor(effects, text);
  const onKey = (event: React.KeyboardEvent) => {
    if (event.key === "Escape" && onClose) {
      event.stopPropagation();
      onClose();
      return;
    }
    const way = ARROWS[event.key];
    const typing = event.target instanceof HTMLInputElement;
    if (!way || (typing && way !== "down")) return;
    event.preventDefault();
    const cards = [...(grid.current?.querySelectorAll<HTMLElement>("button") ?? [])];
    const at = typing ? -1 : cards.indexOf(document.activeElement as HTMLElement);
    const card = cards[next(cards, at, way)];
    card?.focus();
    if (card?.dataset.effect) onTry?.(card.dataset.effect);
  };
  return (
    <Box onKeyDown={onKey}>
      {beside}
      <Box
        component="input"
        aria-label="Find an effect"
        placeholder="find: fire, rain, rainbow, chase ..."
        value={text}
        autoFocus={focused}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => setText(event.target.value)}
        onKeyDown={(event: React.KeyboardEvent) => {
          if (event.key === "Enter" && found[0]) void onChoose(found[0].name);
        }}
        sx={{
          width: 280,
          maxWidth: "100%",
          height: 28,
          px: 1,
          mb: 1,
          font: "inherit",
          color: ink.text,
          background: "transparent",
          border: `1px solid ${ink.hair2}`,
          borderRadius: "4px",
          "&:focus": { borderColor: ink.brass, outline: "none" },
          "&::placeholder": { color: ink.faint, opacity: 1 },
        }}
      />
      <Box
        ref={grid}
        role="group"
        aria-label="Effects"
        sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(150px, 1fr))", gap: 0.75 }}
      >
        {found.map((effect) => (
          <Card
            key={effect.name}
            effect={effect}
            chosen={effect.name === chosen}
            matrix={matrix}
            onChoose={() => onChoose(effect.name)}
          />
        ))}
      </Box>
      {!found.length && <Cap>No effect answers to '{text}'.</Cap>}
    </Box>
  );
}

/** The card to go to: the next or last one, or the nearest of the row above or below. */
function next(cards: HTMLElement[], at: number, way: "left" | "right" | "up" | "down"): number {
  const here = cards[at]?.getBoundingClientRect();
  if (!here) return 0;
  if (way === "left") return Math.max(at - 1, 0);
  if (way === "right") return Math.min(at + 1, cards.length - 1);
  const rows = cards
    .map((card, index) => ({ index, box: card.getBoundingClientRect() }))
    .filter(({ box }) => (way === "down" ? box.top > here.top + 4 : box.top < here.top - 4))
    .filter(({ box }) => Math.abs(box.left - here.left) < here.width / 2);
  return (way === "down" ? rows[0] : rows.at(-1))?.index ?? at;
}

interface CardProps {
  effect: EffectView;
  chosen: boolean;
  matrix: MatrixView | undefined;
  onChoose: () => unknown;
}

function Card({ effect, chosen, matrix, onChoose }: CardProps) {
  const [width, height] = matrix ? [matrix.width, matrix.height] : [24, 12];
  const here = useEffects(matrix).data;
  const why = (matrix && here?.find((one) => one.name === effect.name)?.unsuited) ?? "";
  const upright = height > width;
  return (
    <Box
      component="button"
      data-effect={effect.name}
      aria-pressed={chosen}
      title={effect.says}
      onClick={() => void onChoose()}
      sx={{
        display: "grid",
        ...(upright ? { gridTemplateColumns: "44px 1fr" } : { gridTemplateRows: "46px auto" }),
        gap: upright ? 1 : 0.5,
        alignContent: "start",
        p: 0.75,
        textAlign: "left",
        font: "inherit",
        fontSize: 13,
        lineHeight: "16px",
        color: ink.text,
        background: chosen ? ink.brassGround : ink.row,
        border: `1px solid ${chosen ? ink.brass : ink.hair}`,
        borderRadius: "5px",
        cursor: "pointer",
        "&:hover, &:focus-visible": { borderColor: ink.brass, outline: "none" },
      }}
    >
      <Box
        component="img"
        src={`/api/effects/${effect.name}/miniature?width=${width}&height=${height}`}
        alt=""
        sx={{
          width: "100%",
          height: upright ? 92 : 46,
          objectFit: "contain",
          imageRendering: "pixelated",
          background: ink.lamp,
          borderRadius: "3px",
        }}
      />
      <span>
        <b style={{ fontWeight: 600 }}>{effect.name}</b>
        <Cap as="span" style={{ display: "block" }}>
          {effect.says}
        </Cap>
        {why && (
          <Cap as="span" style={{ display: "block", color: ink.brass }}>
            {why}
          </Cap>
        )}
      </span>
    </Box>
  );
}
