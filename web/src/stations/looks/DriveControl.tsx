import { Box, Button } from "@mui/material";
import { type ReactNode, useState } from "react";
import { Cap, Chip, FaultNote } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Pick } from "../../components/Pick";
import { Typed } from "../../components/Typed";
import { DRIVE_ORDERS, type Drive, type Line, WAVES } from "../../model/lines";
import { NO_NUMBER, round, saySpeed, typedNumber } from "../../model/values";
import { ink } from "../../theme/tokens";
import { CopyDrive } from "./CopyDrive";
import { DriveChart } from "./DriveChart";
import type { LineEdits } from "./useLineEdits";

interface DriveProps {
  look: string;
  line: Line;
  /** "opacity", "speed", "shift", "cycle" or "params.<name>". */
  name: string;
  /** What it moves, where that is not plain from what stands above. */
  says?: string;
  unit: string;
  /** It may be another number for each cell. */
  each: boolean;
  /** Times the stored number as it is shown: 100 where a share is shown in percent. */
  times?: number;
  edits: LineEdits;
}

const SOURCES: [Drive["source"], string][] = [
  ["wave", "wave"],
  ["curve", "curve"],
  ["beat", "beat"],
  ["sound", "sound"],
  ["input", "input"],
];
/** Heads follow one another in the order in which they are chosen. */
const HEAD_ORDERS = DRIVE_ORDERS.filter(([over]) => over === "" || over === "address").map(
  ([over, says]) => [over, over ? "one after another" : says] as [Drive["over"], string],
);
const RUNS: [Drive["by"], string][] = [
  ["time", "from when the look began"],
  ["cycle", "with the line's cycle"],
];
/** A driven speed adds up over time: only what repeats evenly can. */
const SPEED_SOURCES = SOURCES.filter(([source]) => source === "wave" || source === "beat");

/** What moves a number by itself: a wave, a curve, the beat; in which range, how, and over which cells. */
export function DriveControl(props: DriveProps) {
  const { look, line, name, says, unit, each, times = 1, edits } = props;
  const [fault, setFault] = useState("");
  const drive = line.drives[name];
  const set = async (changes: Partial<Omit<Drive, "period">> | { period: string } | null) => {
    const problem = await edits.type({ drives: { [name]: changes } });
    setFault(problem);
    return problem;
  };
  if (!drive)
    return (
      <Box sx={{ mt: 1, display: "flex", gap: 1, alignItems: "center" }}>
        {says && <Cap>{says}</Cap>}
        <Chip aria-label={says ? `${says}: let it move by itself` : undefined} onClick={() => void set({})}>
          let it move by itself
        </Chip>
        {fault && <FaultNote what={fault} />}
      </Box>
    );
  const number = (what: NumberField, label: string, scale = 1, width = 58) => (
    <Typed
      numeric
      width={width}
      label={label}
      value={String(round(drive[what] * scale, 2))}
      onCommit={(text) => {
        const value = typedNumber(text);
        return value === null ? NO_NUMBER : set({ [what]: value / scale });
      }}
    />
  );
  const heads = line.paints === "attributes" && name.startsWith("params.");
  const toggle = (what: "inverse" | "smooth" | "turns" | "alternate", label: string) => (
    <Chip active={drive[what]} aria-pressed={drive[what]} onClick={() => void set({ [what]: !drive[what] })}>
      {label}
    </Chip>
  );
  const byChance = drive.source === "wave" && (drive.wave === "steps" || drive.wave === "drift");
  const waits = drive.source === "sound" || drive.source === "input";
  return (
    <Box role="group" aria-label={`Drive of ${name.replace("params.", "")}`} sx={{ mt: 1.25 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1, flexWrap: "wrap" }}>
        <Cap>{says ? `${says}, moved by` : "moved by"}</Cap>
        <Choices
          names={name === "speed" ? SPEED_SOURCES : SOURCES}
          chosen={drive.source}
          onChoose={(source) => void set({ source })}
        />
        <CopyDrive {...props} onFault={setFault} />
        <Button variant="text" sx={{ px: 0.75 }} onClick={() => void set(null)}>
          Stand still
        </Button>
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "minmax(270px, 1fr) minmax(200px, 1fr)", gap: 1.5 }}>
        <Box sx={{ display: "grid", gap: 0.75, alignContent: "start", fontSize: 13 }}>
          <Row label="range">
            {number("low", "From", times)} to {number("high", "To", times)} {unit}
          </Row>
          {drive.source === "wave" && (
            <Row label="wave">
              <Pick label="Wave" names={WAVES} chosen={drive.wave} onChoose={(wave) => set({ wave })} />
            </Row>
          )}
          {!waits && !(drive.source === "curve" && drive.by === "cycle") && (
            <Row label="every">
              <Typed
                numeric
                width={86}
                label="Period"
                value={saySpeed(drive.period)}
                onCommit={(text) => set({ period: text })}
              />
              {drive.source === "wave" && !byChance && <>begun {number("phase", "Phase", 100, 50)} %</>}
              {drive.source === "wave" && drive.wave === "square" && (
                <>high {number("duty", "Duty", 100, 50)} %</>
              )}
              {drive.source === "beat" && <>falls in {number("decay", "Decay", 100, 50)} %</>}
            </Row>
          )}
          {drive.source === "curve" && (
            <Row label="runs">
              <Pick
                label="Runs"
                names={line.paints === "attributes" ? RUNS.slice(0, 1) : RUNS}
                chosen={drive.by}
                onChoose={(by) => set({ by })}
              />
              {toggle("smooth", "eased")} {toggle("turns", "turns")} rounds{" "}
              {number("rounds", "Rounds", 1, 50)}
              {drive.rounds === 0 && <Cap>0 is endless</Cap>}
            </Row>
          )}
          <Row label="shape">
            <Pick
              label="Shape"
              names={[
                ["straight", "straight"],
                ["eased", "eased"],
                ["steps", "sudden"],
              ]}
              chosen={drive.shape}
              onChoose={(shape) => set({ shape })}
            />
            {drive.shape === "steps" && <>in {number("steps", "Steps", 1, 46)} steps</>}
            {toggle("inverse", "inverted")}
          </Row>
          {name !== "speed" && (
            <Row label="smoothing">
              rise {number("rise", "Rise, seconds", 1, 52)} fall {number("fall", "Fall, seconds", 1, 52)} s
            </Row>
          )}
          {each && (
            <Row label={heads ? "heads" : "cells"}>
              <Pick
                label={heads ? "Over the heads" : "Over the cells"}
                names={heads ? HEAD_ORDERS : DRIVE_ORDERS}
                chosen={drive.over}
                onChoose={(over) => set({ over })}
              />
              {drive.over && !byChance && (
                <span>
                  {number("spread", "Spread", 1, 50)} {drive.spread === 1 ? "period" : "periods"}
                </span>
              )}
              {heads && toggle("alternate", "every second the other way")}
              {drive.over === "distance" && (
                <span>
                  from {number("x", "Across", 100, 46)} % across, {number("y", "Down", 100, 46)} % down
                </span>
              )}
            </Row>
          )}
        </Box>
        <Box sx={{ minWidth: 0 }}>
          {waits ? (
            <Cap sx={{ p: 1, border: `1px dashed ${ink.hair2}`, borderRadius: "6px" }}>
              Nothing arrives yet: {drive.source === "sound" ? "no sound" : "no input"} is connected to this
              show, so the number stays as it is stored.
            </Cap>
          ) : (
            <DriveChart
              look={look}
              line={line}
              name={name}
              times={times}
              unit={unit.startsWith("%") ? " %" : unit === "°" ? "°" : ""}
              {...(drive.source === "curve" ? { onPoints: (points) => set({ points }) } : {})}
            />
          )}
          {drive.source === "curve" && (
            <Cap>Drag the points; a double click adds one, Delete takes the chosen one away.</Cap>
          )}
        </Box>
      </Box>
      {fault && <FaultNote what={fault} />}
    </Box>
  );
}

type NumberField =
  | "low"
  | "high"
  | "phase"
  | "duty"
  | "decay"
  | "rounds"
  | "steps"
  | "rise"
  | "fall"
  | "spread"
  | "x"
  | "y";

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "66px 1fr", gap: 0.75, alignItems: "start" }}>
      <Cap sx={{ lineHeight: "26px" }}>{label}</Cap>
      <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap", minHeight: 26 }}>
        {children}
      </Box>
    </Box>
  );
}
