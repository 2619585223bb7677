import { Button } from "@mui/material";
import { useCallback, useEffect, useState } from "react";
import { KeyCap } from "../../components/atoms";
import { command } from "../../stores/hands";

/** Lights the chosen fixtures up while it is held, by pointer or by H; what was before comes back. */
export function Highlight({ fixtures }: { fixtures: string[] }) {
  const [held, setHeld] = useState(false);
  const key = fixtures.join();
  const set = useCallback(
    (on: boolean) => {
      setHeld(on);
      command({ do: "highlight", fixtures: on ? key.split(",") : [] });
    },
    [key],
  );
  useEffect(() => {
    const typing = (event: KeyboardEvent) =>
      (event.target as HTMLElement).closest("input:not([type=range]), textarea") !== null;
    const down = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== "h" || event.repeat || event.ctrlKey || event.metaKey || typing(event))
        return;
      set(true);
    };
    const up = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === "h" && !typing(event)) set(false);
    };
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
    };
  }, [set]);
  // Whatever takes the button away, the lamps are given back.
  useEffect(() => {
    if (!held) return;
    const letGo = () => set(false);
    window.addEventListener("blur", letGo);
    return () => {
      window.removeEventListener("blur", letGo);
      command({ do: "highlight", fixtures: [] });
    };
  }, [held, set]);
  return (
    <Button
      color="primary"
      variant={held ? "contained" : "outlined"}
      aria-pressed={held}
      onPointerDown={() => set(true)}
      onPointerUp={() => set(false)}
      onPointerLeave={() => held && set(false)}
    >
      Highlight <KeyCap sx={{ color: "inherit", borderColor: "currentcolor" }}>H</KeyCap>
    </Button>
  );
}
