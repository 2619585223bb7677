import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { answer, client, problemOf, type Schemas } from "../../api/client";
import { Cap, Chip, FaultNote, Swatch } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { ColourChooser } from "../../components/ColourChooser";
import { Typed } from "../../components/Typed";
import type { Line } from "../../model/lines";
import { NO_NUMBER, round, saySpeed, typedNumber } from "../../model/values";
import { ribbonNow } from "../../stores/driven";
import { RibbonChart } from "./RibbonChart";
import { RibbonThread } from "./RibbonThread";
import type { LineEdits } from "./useLineEdits";

export type Ribbon = Line["ribbons"][string];
export type Knot = Ribbon["knots"][number];

interface RibbonProps {
  look: string;
  line: Line;
  /** Which colour of the ramp, from 0. */
  stop: number;
  edits: LineEdits;
}

/** A colour of the ramp over time: knots that set the whole colour, threads of single emitters between them. */
export function RibbonControl({ look, line, stop, edits }: RibbonProps) {
  const [picked, setPicked] = useState(0);
  const [fault, setFault] = useState("");
  const [choosing, setChoosing] = useState(false);
  const key = String(stop);
  const ribbon = line.ribbons[key];
  const { data: chart } = useQuery({
    queryKey: ["ribbon", line.id, key, JSON.stringify(ribbon)],
    queryFn: async () =>
      (await answer(
        client.GET("/api/looks/{look_id}/lines/{line_id}/ribbons/{stop}", {
          params: { path: { look_id: look, line_id: line.id, stop: key } },
        }),
      )) as Schemas["RibbonChart"] | null,
    enabled: ribbon !== undefined,
    retry: false,
  });
  const set = async (changes: Schemas["RibbonBody"] | null) => {
    const problem = await edits.type({ ribbons: { [key]: changes } });
    setFault(problem);
    return problem;
  };
  if (!ribbon)
    return (
      <Box sx={{ mt: 1, display: "flex", gap: 1, alignItems: "center" }}>
        <Cap>colour {stop + 1} over time</Cap>
        <Chip aria-label={`Colour ${stop + 1}: let it go over time`} onClick={() => void set({})}>
          let it go over time
        </Chip>
        {fault && <FaultNote what={fault} />}
      </Box>
    );
  const at = Math.min(picked, ribbon.knots.length - 1);
  const knot = ribbon.knots[at] as Knot;
  const unit = ribbon.length.unit === "s" ? "s" : "beats";
  const knots = (next: Knot[]) => set({ knots: next.sort((a, b) => a[0] - b[0]) });
  const changed = (next: Knot) => knots(ribbon.knots.map((one, n) => (n === at ? next : one)));
  const time = (value: number, label: string, store: (value: number) => unknown) => (
    <Typed
      numeric
      width={58}
      label={label}
      value={String(round(value, 2))}
      onCommit={(text) => {
        const typed = typedNumber(text);
        return typed === null ? NO_NUMBER : store(typed);
      }}
    />
  );
  return (
    <Box role="group" aria-label={`Colour ${stop + 1} over time`} sx={{ mt: 1.25 }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap", mb: 0.75, fontSize: 13 }}>
        <Cap>colour {stop + 1}, a ribbon of</Cap>
        <Typed
          numeric
          width={86}
          label="Length of the ribbon"
          value={saySpeed(ribbon.length)}
          onCommit={(length) => set({ length })}
        />
        <Cap>rounds</Cap>
        {time(ribbon.rounds, "Rounds of the ribbon", (rounds) => set({ rounds: Math.round(rounds) }))}
        <Cap>{ribbon.rounds === 0 && "endless"}</Cap>
        <Chip
          active={ribbon.turns}
          aria-pressed={ribbon.turns}
          onClick={() => void set({ turns: !ribbon.turns })}
        >
          turns at its ends
        </Chip>
        <Button variant="text" sx={{ ml: "auto", px: 0.75 }} onClick={() => void set(null)}>
          Stand still
        </Button>
      </Box>
      <RibbonChart
        ribbon={ribbon}
        chart={chart ?? undefined}
        chosen={at}
        unit={unit}
        onChoose={setPicked}
        onKnots={knots}
        onThreads={(threads) => set({ threads })}
        nowAt={() => ribbonNow(line, key)}
      />
      <Box sx={{ display: "grid", gap: 0.75, mt: 0.75, fontSize: 13 }}>
        <Row label={`knot ${at + 1}`}>
          at{" "}
          {time(knot[0], "Time of the knot", (value) => changed([value, knot[1], knot[2], knot[3], knot[4]]))}{" "}
          {unit}
          <Chip aria-expanded={choosing} onClick={() => setChoosing(!choosing)} title="Choose its colour">
            <Swatch rgb={[knot[1], knot[2], knot[3]]} /> colour
          </Chip>
          <Typed
            numeric
            width={116}
            label="Colour of the knot"
            value={[knot[1], knot[2], knot[3]].map((one) => round(one, 0)).join(" ")}
            onCommit={(text) =>
              problemOf(async () => {
                const { rgb } = await answer(
                  client.GET("/api/reading/colour", { params: { query: { text } } }),
                );
                const [red = 0, green = 0, blue = 0] = rgb;
                await changed([knot[0], red, green, blue, knot[4]]);
              })
            }
          />
          goes on
          <Choices
            names={[
              ["straight", "straight"],
              ["eased", "eased"],
            ]}
            chosen={knot[4] ? "eased" : "straight"}
            onChoose={(how) => changed([knot[0], knot[1], knot[2], knot[3], how === "eased"])}
          />
          <Button
            variant="text"
            sx={{ px: 0.75 }}
            disabled={ribbon.knots.length < 2}
            onClick={() => void knots(ribbon.knots.filter((_, n) => n !== at))}
          >
            Take it away
          </Button>
          <Button
            variant="text"
            sx={{ px: 0.75 }}
            title="Each emitter gets a point of its own here"
            disabled={ribbon.knots.length < 2}
            onClick={() => void set({ loosen: at })}
          >
            Loosen
          </Button>
        </Row>
        {choosing && (
          <ColourChooser
            label="Colour chosen for the knot"
            rgb={[Math.round(knot[1]), Math.round(knot[2]), Math.round(knot[3])]}
            onMove={() => undefined}
            onCommit={([red, green, blue]) => changed([knot[0], red, green, blue, knot[4]])}
          />
        )}
        <Row label="thread">
          <RibbonThread
            ribbon={ribbon}
            unit={unit}
            onThreads={(threads) => set({ threads })}
            onFasten={(fasten) => set({ fasten })}
            number={time}
          />
        </Row>
      </Box>
      {fault && <FaultNote what={fault} />}
    </Box>
  );
}

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "52px 1fr", gap: 1 }}>
      <Cap sx={{ lineHeight: "26px" }}>{label}</Cap>
      <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap" }}>{children}</Box>
    </Box>
  );
}
