import { useCallback, useRef, useState } from "react";
import { answer, client, type FixtureView } from "../../api/client";
import { useEdit } from "../../api/show";
import { clamp } from "../../model/values";

export interface Dragged {
  fixture: FixtureView;
  universe: number;
  /** First channel where it would come to lie. */
  channel: number;
  /** The fixture it would change places with: dropped on one of the same length. */
  exchange: FixtureView | null;
}

type OnRuler = { fixture: FixtureView; first: number; last: number }[];

/** Dragging fixtures along and between rulers: one slot is one pixel. Dropped on its like it changes places. */
export function useFixtureDrag() {
  const rulers = useRef(new Map<number, () => OnRuler>());
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const edit = useEdit();
  const now = useRef(edit);
  now.current = edit;

  /** A ruler tells what lies on it; returns how to take it back. */
  const register = useCallback((universe: number, where: () => OnRuler) => {
    rulers.current.set(universe, where);
    return () => rulers.current.delete(universe);
  }, []);

  const over = useCallback((fixture: FixtureView, grip: number, x: number, y: number): Dragged | null => {
    // Only the ruler under the pointer is measured: asking all of them lays out hundreds that are out of sight.
    const under = document.elementsFromPoint(x, y).find((one) => one.closest("[data-universe]"));
    const element = under?.closest<HTMLElement>("[data-universe]");
    if (!element) return null;
    const universe = Number(element.dataset.universe);
    const box = element.getBoundingClientRect();
    const fixtures = rulers.current.get(universe)?.() ?? [];
    const channel = clamp(Math.round(x - box.left - grip) + 1, 1, 512);
    const at = Math.round(x - box.left) + 1;
    const other = fixtures.find((one) => one.fixture.id !== fixture.id && at >= one.first && at <= one.last);
    const exchange = other && other.fixture.footprint === fixture.footprint ? other.fixture : null;
    return { fixture, universe, channel: exchange ? (other?.first ?? channel) : channel, exchange };
  }, []);

  const drop = useCallback(async (end: Dragged) => {
    const edit = now.current;
    const { fixture, universe, channel, exchange } = end;
    if (exchange)
      await edit(() =>
        answer(client.POST("/api/patch/exchange", { body: { a: fixture.id, b: exchange.id } })),
      );
    else if (`U${universe}.${channel}` !== fixture.address)
      await edit(() =>
        answer(
          client.PATCH("/api/fixtures/{fixture_id}", {
            params: { path: { fixture_id: fixture.id } },
            body: { address: `U${universe}.${channel}`, rev: fixture.rev },
          }),
        ),
      );
  }, []);

  /** Handlers for one fixture on a ruler; a press that does not move is a choice, not a drag. */
  const grip = useCallback(
    (fixture: FixtureView, first: number, left: () => number) => ({
      onPointerDown: (event: React.PointerEvent<HTMLElement>) => {
        if (event.button) return;
        const start = { x: event.clientX, y: event.clientY };
        const hold = event.clientX - left() - (first - 1);
        let last: Dragged | null = null;
        const target = event.currentTarget;
        target.setPointerCapture(event.pointerId);
        const move = (next: PointerEvent) => {
          if (!last && Math.hypot(next.clientX - start.x, next.clientY - start.y) < 4) return;
          last = over(fixture, hold, next.clientX, next.clientY) ?? last;
          setDragged(last);
        };
        const end = (next: PointerEvent | KeyboardEvent) => {
          target.removeEventListener("pointermove", move);
          target.removeEventListener("pointerup", end);
          target.removeEventListener("pointercancel", end);
          window.removeEventListener("keydown", onEscape);
          if (last && next.type === "pointerup") void drop(last).then(() => setDragged(null));
          else setDragged(null);
        };
        const onEscape = (next: KeyboardEvent) => next.key === "Escape" && end(next);
        target.addEventListener("pointermove", move);
        target.addEventListener("pointerup", end);
        target.addEventListener("pointercancel", end);
        window.addEventListener("keydown", onEscape);
      },
    }),
    [over, drop],
  );
  return { dragged, register, grip };
}

export type FixtureDrag = ReturnType<typeof useFixtureDrag>;
