import { useEffect, useRef } from "react";
import { eachFrame } from "../../canvas/eachFrame";
import { ink } from "../../theme/tokens";

interface NowProps {
  /** Where along the ribbon, 0 to 1; undefined while nothing tells it. */
  at: () => number | undefined;
  x: (part: number) => number;
}

/** *Now* on a ribbon: a mark that follows the pictures as they come, drawn without React. */
export function RibbonNow({ at, x }: NowProps) {
  const mark = useRef<SVGPathElement>(null);
  const said = useRef({ at, x });
  said.current = { at, x };
  useEffect(() => {
    let drawn: string | null = "";
    const draw = () => {
      const part = said.current.at();
      const path = mark.current;
      const next = part === undefined ? null : `translate(${said.current.x(part)} 0)`;
      if (!path || next === drawn) return;
      drawn = next;
      path.style.display = next === null ? "none" : "";
      if (next !== null) path.setAttribute("transform", next);
    };
    return eachFrame(draw);
  }, []);
  return (
    <path
      ref={mark}
      data-now="ribbon"
      d="M0 0V100M-4 0H4L0 6Z"
      stroke={ink.brass}
      strokeWidth="1.5"
      fill={ink.brass}
      pointerEvents="none"
    />
  );
}
