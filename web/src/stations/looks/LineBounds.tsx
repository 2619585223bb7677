import type { ReactNode } from "react";
import type { LookView, WholeShow } from "../../api/client";
import { Chip } from "../../components/atoms";
import { called, type Line, sayRegion } from "../../model/lines";
import { ink } from "../../theme/tokens";
import type { Opened } from "./LineControl";

interface BoundsProps {
  show: WholeShow;
  look: LookView;
  line: Line;
  /** What is not set is offered too. */
  chosen: boolean;
  opened: Opened | null;
  onOpen: (what: Opened) => void;
}

/** What a line is painted through, the part it keeps to, the one component it writes. */
export function LineBounds({ show, look, line, chosen, opened, onOpen }: BoundsProps) {
  const at = look.lines.findIndex((one) => one.id === line.through?.line);
  const mask = look.lines[at];
  const chip = (what: Opened, set: boolean, says: ReactNode) =>
    (set || chosen) && (
      <Chip
        active={opened === what}
        aria-expanded={opened === what}
        onClick={() => onOpen(what)}
        sx={set ? {} : { borderStyle: "dashed", color: ink.soft, background: "none" }}
      >
        {says}
      </Chip>
    );
  const by = line.through?.by === "cover" ? "cover" : "light";
  const used = look.lines.filter((one) => one.through?.line === line.id);
  return (
    <>
      {mask && " through "}
      {mask && line.through?.inverse && "all but "}
      {chip("through", Boolean(mask), mask ? `${at + 1} ${called(mask, show.clips)}` : "through")}
      {mask && `, by its ${by}`} {line.region && "in "}
      {chip("region", line.region !== null, line.region ? sayRegion(line.region) : "part")}{" "}
      {line.only && "only its "}
      {chip("only", line.only !== "", line.only || "only")}
      {line.stencil && (
        <span style={{ color: ink.soft }}>
          {" "}
          stencil
          {used.length === 0 && ": paints nothing, and nothing is painted through it"}
        </span>
      )}
    </>
  );
}
