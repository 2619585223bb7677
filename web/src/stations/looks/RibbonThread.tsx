import { Button } from "@mui/material";
import { Fragment, type ReactNode, useState } from "react";
import { Cap } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import type { Ribbon } from "./RibbonControl";

const EMITTERS = ["red", "green", "blue"] as const;
type Points = [number, number][];

interface ThreadProps {
  ribbon: Ribbon;
  unit: string;
  /** Points at a time become one knot. */
  onFasten: (at: number) => unknown;
  onThreads: (threads: Record<string, Points>) => unknown;
  /** A typed number with its label. */
  number: (value: number, label: string, store: (value: number) => unknown) => ReactNode;
}

/** The points of one emitter that goes its own way between two knots. */
export function RibbonThread({ ribbon, unit, onThreads, onFasten, number }: ThreadProps) {
  const [emitter, setEmitter] = useState<(typeof EMITTERS)[number]>("red");
  const points = (ribbon.threads[emitter] ?? []) as Points;
  const set = (next: Points) =>
    onThreads({ ...ribbon.threads, [emitter]: next.sort((a, b) => a[0] - b[0]) } as Record<string, Points>);
  const changed = (n: number, point: [number, number]) =>
    set(points.map((one, at) => (at === n ? point : one)));
  const last = points.at(-1)?.[0] ?? ribbon.knots[0]?.[0] ?? 0;
  return (
    <>
      <Choices names={EMITTERS.map((one) => [one, one])} chosen={emitter} onChoose={setEmitter} />
      {points.map(([at, value], n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: points have no name but their place
        <Fragment key={n}>
          {number(value, `Point ${n + 1} of the thread`, (next) => changed(n, [at, next]))} at{" "}
          {number(at, `Time of point ${n + 1}`, (next) => changed(n, [next, value]))} {unit}
          <Button
            variant="text"
            aria-label={`Take point ${n + 1} away`}
            sx={{ px: 0.25, minWidth: 20 }}
            onClick={() => void set(points.filter((_, other) => other !== n))}
          >
            ×
          </Button>
          <Button
            variant="text"
            aria-label={`Fasten point ${n + 1}`}
            title="All emitters meet in a knot here"
            sx={{ px: 0.5 }}
            onClick={() => void onFasten(at)}
          >
            Fasten
          </Button>
        </Fragment>
      ))}
      <Button
        variant="text"
        sx={{ px: 0.75 }}
        onClick={() => void set([...points, [(last + ribbon.length.value) / 2, 0]])}
      >
        Add a point
      </Button>
      {!points.length && <Cap>goes with the knots</Cap>}
    </>
  );
}
