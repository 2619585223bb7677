import { type ReactNode, useState } from "react";
import { ValueSlider } from "./ValueSlider";

const SETTLE_MS = 600;

interface LevelProps {
  of: string;
  level: number;
  onLevel: (level: number) => void;
  narrow?: boolean;
  head?: ReactNode;
}

/** A level of the engine's, 0 to 1, moved in percent: what was moved to stands until the engine has said it. */
export function LevelSlider({ of, level, onLevel, narrow, head }: LevelProps) {
  const [moving, setMoving] = useState<number | null>(null);
  const set = (percent: number) => {
    setMoving(percent);
    onLevel(percent / 100);
  };
  return (
    <ValueSlider
      label="level"
      of={of}
      value={moving ?? level * 100}
      minimum={0}
      maximum={100}
      unit="%"
      narrow={narrow}
      head={head}
      onMove={set}
      onCommit={(percent) => {
        set(percent);
        setTimeout(() => setMoving(null), SETTLE_MS);
      }}
    />
  );
}
