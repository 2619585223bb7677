import { Box, Button } from "@mui/material";
import { useEffect, useMemo, useState } from "react";
import type { FixtureView, WholeShow } from "../../../api/client";
import { Cap, Part } from "../../../components/atoms";
import { Choices } from "../../../components/Choices";
import { attributesOf, chosenRuns } from "../../../model/manual";
import { command } from "../../../stores/hands";
import { useLive, watchLevels } from "../../../stores/live";
import { useView } from "../../../stores/view";
import { FadersPart } from "../FadersPart";
import { AttributeRow } from "./AttributeRow";
import { ColourRow } from "./ColourRow";
import { PanTilt } from "./PanTilt";

interface ManualProps {
  /** The last one chosen: its values are shown. */
  fixture: FixtureView;
  chosen: FixtureView[];
  show: WholeShow;
}

/** What is chosen, by hand: by attribute for all of it at once, or channel by channel. */
export function ManualPart({ fixture, chosen, show }: ManualProps) {
  const [way, setWay] = useState<"attributes" | "channels">("attributes");
  const parts = useView((view) => view.parts);
  const emitter = useView((view) => view.emitter);
  const held = useLive((live) => live.engine?.state.manual) ?? {};
  const count = Object.keys(held).length;
  const profiles = useMemo(() => new Map(show.profiles.map((one) => [one.id, one])), [show.profiles]);
  const attributes = useMemo(
    () => attributesOf(chosenRuns(chosen, parts, profiles), emitter),
    [chosen, parts, profiles, emitter],
  );
  const first = [...new Set(attributes.map((one) => Math.floor((one.places[0]?.position ?? 0) / 512) + 1))];
  const universes = first.join();
  useEffect(() => {
    const stops = universes ? universes.split(",").map((one) => watchLevels(Number(one))) : [];
    return () => {
      for (const stop of stops) stop();
    };
  }, [universes]);
  const profile = profiles.get(fixture.profile);
  const has = (name: string) => attributes.find((one) => one.name === name);
  const [pan, tilt] = [has("Pan"), has("Tilt")];
  return (
    <Part>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
        <Box sx={{ fontWeight: 600 }}>By hand</Box>
        <Choices
          names={[
            ["attributes", "attributes"],
            ["channels", "channels"],
          ]}
          chosen={way}
          onChoose={setWay}
        />
        <Button
          sx={{ ml: "auto" }}
          disabled={!count}
          onClick={() => command({ do: "release" })}
          title="Give every channel that is held by hand back to the looks"
        >
          Release {count || ""}
        </Button>
      </Box>
      {way === "channels" ? (
        <FadersPart fixture={fixture} chosen={chosen} profile={profile} />
      ) : (
        <>
          {!attributes.length && <Cap>Nothing of what is chosen has an address.</Cap>}
          <ColourRow attributes={attributes} />
          {attributes.map((one) => (
            <AttributeRow key={one.name} attribute={one} held={held} />
          ))}
          {pan && tilt && <PanTilt pan={pan} tilt={tilt} />}
          <Cap sx={{ mt: 1 }}>
            {says(chosen.length, parts.length, emitter)} Type 0 % {">"} 100 % to fan over them.
          </Cap>
        </>
      )}
    </Part>
  );
}

function says(fixtures: number, parts: number, emitter: string): string {
  const of = emitter ? ` (${emitter} only)` : "";
  if (parts) return `Moves the ${parts} chosen parts${of}.`;
  return fixtures > 1
    ? `Moves all ${fixtures} chosen${of}.`
    : `As sent until moved, then above every look${of}.`;
}
