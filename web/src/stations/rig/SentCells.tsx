import { useEffect, useMemo, useRef } from "react";
import type { FixtureView, WholeShow } from "../../api/client";
import { beadsOf } from "../../model/placements";
import { latest, pictures } from "../../stores/pictures";
import { ink } from "../../theme/tokens";

const BEADS = new WeakMap<object, ReturnType<typeof beadsOf>>();

/** A fixture's cells in a line, in the colours that were sent: read from the first matrix it stands on. */
export function SentCells({ fixture, show }: { fixture: FixtureView; show: WholeShow }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const place = useMemo(() => {
    for (const matrix of show.matrices) {
      let beads = BEADS.get(matrix);
      if (!beads) {
        beads = beadsOf(matrix, show.fixtures);
        BEADS.set(matrix, beads);
      }
      const own = beads.filter((bead) => bead.fixture.id === fixture.id);
      if (own.length) return { matrix: matrix.id, own };
    }
    return null;
  }, [fixture.id, show.matrices, show.fixtures]);
  useEffect(() => {
    if (!place) return;
    let handle = 0;
    let seen = -1;
    const draw = () => {
      handle = requestAnimationFrame(draw);
      const picture = pictures.get(place.matrix);
      const context = canvas.current?.getContext("2d");
      if (!picture || !context || latest.frame.number === seen) return;
      seen = latest.frame.number;
      place.own.forEach((bead, index) => {
        const column = Math.floor(bead.x / picture.step);
        const at = (Math.floor(bead.y / picture.step) * picture.columns + column) * 3;
        context.fillStyle = `rgb(${picture.rgb[at] ?? 0} ${picture.rgb[at + 1] ?? 0} ${picture.rgb[at + 2] ?? 0})`;
        context.fillRect(index, 0, 1, 1);
      });
    };
    draw();
    return () => cancelAnimationFrame(handle);
  }, [place]);
  if (!place) return <span style={{ color: ink.faint, fontSize: 12 }}>on no matrix</span>;
  return (
    <canvas
      data-live
      ref={canvas}
      width={place.own.length}
      height={1}
      role="img"
      aria-label={`${fixture.name} as sent`}
      style={{ width: "100%", height: 8, imageRendering: "pixelated", background: ink.lamp, borderRadius: 2 }}
    />
  );
}
