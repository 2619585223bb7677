import { Box, Button } from "@mui/material";
import { useEffect, useMemo, useState } from "react";
import type { FixtureView, WholeShow } from "../../../api/client";
import { Cap, Part } from "../../../components/atoms";
import { Choices } from "../../../components/Choices";
import { attributesOf, chosenRuns } from "../../../model/manual";
import { hold } from "../../../stores/hands";
import { useLive, watchLevels } from "../../../stores/live";
import { say } from "../../../stores/notices";
import { useView } from "../../../stores/view";
import { FadersPart } from "../FadersPart";
import { AttributeRow } from "./AttributeRow";
import { ColourRow } from "./ColourRow";
import { KeepAsLook } from "./KeepAsLook";
import { PanTilt } from "./PanTilt";
import { StillNote } from "./StillNote";

interface ManualProps {
  /** The last one chosen: its values are shown. */
  fixture: FixtureView;
  chosen: FixtureView[];
  show: WholeShow;
}

/** Universes whose values are looked at; what lies beyond is moved, but not shown. */
const WATCHED = 24;

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
  const first = [
    ...new Set(attributes.flatMap((one) => one.places.map((place) => Math.floor(place.position / 512) + 1))),
  ];
  const universes = first.slice(0, WATCHED).join();
  useEffect(() => {
    const stops = universes ? universes.split(",").map((one) => watchLevels(Number(one))) : [];
    return () => {
      for (const stop of stops) stop();
    };
  }, [universes]);
  const own = attributes
    .flatMap((one) => one.places.flatMap((place) => [place.key, place.fineKey]))
    .filter((key, n, all) => held[key] !== undefined && all.indexOf(key) === n);
  const release = (keys: string[]) => {
    const before = Object.fromEntries(keys.map((key) => [key, held[key] ?? null]));
    hold("manual", { values: Object.fromEntries(keys.map((key) => [key, null])) });
    say(keys.length === 1 ? "1 channel released." : `${keys.length} channels released.`, () =>
      hold("manual", { values: before }),
    );
  };
  const profile = profiles.get(fixture.profile);
  const has = (name: string) => attributes.find((one) => one.name === name);
  const [pan, tilt] = [has("Pan"), has("Tilt")];
  return (
    <Part>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1, flexWrap: "wrap" }}>
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
          disabled={!own.length}
          onClick={() => release(own)}
          title="Give what is chosen back to the looks"
        >
          Release {own.length || ""}
        </Button>
        {count > 0 && <KeepAsLook />}
        {count > own.length && (
          <Button
            variant="text"
            onClick={() => release(Object.keys(held))}
            title="Give every channel of every fixture that is held by hand back to the looks"
          >
            all {count}
          </Button>
        )}
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
          <StillNote chosen={chosen} />
          <Cap sx={{ mt: 1 }}>
            {says(chosen, parts, emitter)} Type 0 % {">"} 100 % to fan over them.
          </Cap>
        </>
      )}
    </Part>
  );
}

/** So many parts are named one by one. */
const NAMED = 4;

/** What a selection means while values are set: whole fixtures, shared parts, cells. */
function says(chosen: FixtureView[], parts: string[], emitter: string): string {
  const of = emitter ? `, ${emitter} only` : "";
  if (!parts.length)
    return chosen.length > 1
      ? `Moves all ${chosen.length} chosen, each whole: its shared part and every cell${of}.`
      : `${chosen[0]?.number} whole: its shared part and every cell${of}. As sent until moved, then above every look.`;
  if (parts.length > NAMED) return `Moves the ${parts.length} chosen parts${of}.`;
  const numbers = new Map(chosen.map((one) => [one.id, one.number]));
  const named = parts.map((one) => {
    const [id = "", cell = "0"] = one.split(":");
    return cell === "0"
      ? `${numbers.get(id)}:0 (what its cells share)`
      : `${numbers.get(id)}:${cell} (a cell)`;
  });
  return `Moves ${named.join(", ")}${of}.`;
}
