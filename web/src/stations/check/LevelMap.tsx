import { Box, Button } from "@mui/material";
import { useEffect, useMemo, useRef, useState } from "react";
import { answer, client, type WholeShow } from "../../api/client";
import { Cap, PaneHead } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import type { Base } from "../../model/why";
import { watchLevels } from "../../stores/live";
import { useView } from "../../stores/view";
import { universesOf } from "../patch/universes";
import { SIGHTS, type Sight } from "./Lamps";
import { type Folding, LevelCanvas } from "./LevelCanvas";
import { LookBack } from "./LookBack";
import { OwnerLine } from "./OwnerLine";
import { ReceivedMap } from "./ReceivedMap";
import { UniversePictures } from "./UniversePictures";
import { useOwners } from "./useOwners";

const BEFORE_MS = 150;
const FOLDINGS = [
  ["fixture", "by fixture"],
  ["24", "by 24"],
] as const;

/** All 512 values of a universe as sent; the owner of a channel on hover and by the arrow keys. */
interface MapProps {
  show: WholeShow;
  channel: number;
  onChannel: (channel: number) => void;
  onSight: (sight: Sight) => void;
}

export function LevelMap({ show, channel, onChannel: setChannel, onSight }: MapProps) {
  const universe = useView((view) => view.universe);
  const [folding, setFolding] = useState<Folding>("fixture");
  const [base, setBase] = useState<Base>("0-255");
  const [of, setOf] = useState<"sent" | "before" | "received">("sent");
  /** A click keeps the channel while the pointer goes elsewhere, to its fader for one. */
  const [pinned, setPinned] = useState(false);
  const known = useMemo(() => universesOf(show), [show]);
  const { data, error, owners } = useOwners(universe);
  useEffect(() => watchLevels(universe), [universe]);
  const before = useRef<Uint8Array | null>(null);
  useEffect(() => {
    before.current = null;
    if (of !== "before") return;
    let gone = false;
    const ask = async () => {
      const path = { universe };
      const found = await answer(
        client.GET("/api/levels/{universe}/before-desk", { params: { path } }),
      ).catch(() => null);
      if (gone) return;
      if (found) before.current = Uint8Array.from(found.levels);
      timer = setTimeout(ask, BEFORE_MS);
    };
    let timer = setTimeout(ask, 0);
    return () => {
      gone = true;
      clearTimeout(timer);
      before.current = null;
    };
  }, [of, universe]);
  const pin = () => setPinned((before) => !before);
  const go = (number: number) => {
    if (number >= 1 && number <= 63999) useView.setState({ universe: number });
  };
  return (
    <>
      <PaneHead
        title={
          of === "received" ? (
            "Received"
          ) : (
            <Box sx={{ display: "flex", alignItems: "center", gap: 1, fontWeight: 400 }}>
              <Button aria-label="Universe before" onClick={() => go(universe - 1)}>
                ‹
              </Button>
              <Box sx={{ "& input": { fontSize: 17, fontWeight: 600 } }}>
                <Typed
                  numeric
                  width={78}
                  label="Universe"
                  value={`U${universe}`}
                  onCommit={(text) => {
                    const number = Number(text.replace(/^[uU]/, ""));
                    if (!Number.isInteger(number) || number < 1 || number > 63999)
                      return "Universes are 1 to 63999.";
                    go(number);
                  }}
                />
              </Box>
              <Button aria-label="Next universe" onClick={() => go(universe + 1)}>
                ›
              </Button>
            </Box>
          )
        }
      >
        <Choices names={SIGHTS} chosen={"channels" as Sight} onChoose={onSight} />
      </PaneHead>
      <Box sx={{ display: "flex", justifyContent: "space-between", gap: 1, px: 2, pb: 0.75 }}>
        <Choices
          names={[
            ["sent", "sent"],
            ["before", "before desk"],
            ["received", "received"],
          ]}
          chosen={of}
          onChoose={setOf}
        />
        {of !== "received" && <Choices names={FOLDINGS} chosen={folding} onChoose={setFolding} />}
        <Choices
          names={[
            ["0-255", "0-255"],
            ["percent", "%"],
            ["hex", "hex"],
          ]}
          chosen={base}
          onChoose={setBase}
        />
      </Box>
      {of === "received" ? (
        <ReceivedMap base={base} />
      ) : (
        <>
          <Cap sx={{ px: 2, pb: 0.75 }}>
            {of === "before" && "As looks make it, before hand and guard. "}
            {error
              ? `${error.what} ${error.repair}`
              : data?.numbers.length
                ? data.numbers.join("; ")
                : "No output sends this universe."}
          </Cap>
          <UniversePictures known={known} chosen={universe} onChoose={go} />
          <LevelCanvas
            universe={universe}
            channel={channel}
            onChannel={setChannel}
            pinned={pinned}
            onPin={pin}
            data={data}
            owners={owners}
            folding={folding}
            base={base}
            instead={before}
          />
          <OwnerLine
            universe={universe}
            channel={channel}
            owners={owners.get(channel) ?? []}
            pinned={pinned}
            parked={show.parked}
          />
          <LookBack matrix="" universe={universe} />
        </>
      )}
    </>
  );
}
