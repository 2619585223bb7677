import { typeText } from "../stores/hands";
import { Typed } from "./Typed";

/** The tempo of the show, typed. */
export function TempoField({ bpm, label }: { bpm: number; label: string }) {
  return (
    <Typed
      quiet
      numeric
      moves
      label={label}
      value={bpm.toFixed(1)}
      onCommit={(text) => typeText("tempo", text)}
    />
  );
}
