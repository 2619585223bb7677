import { Box, Button } from "@mui/material";
import { useEffect, useMemo, useRef, useState } from "react";
import { answer, client, type WholeShow } from "../../api/client";
import { ACROSS, CELL, LEFT, paint, ROWS } from "../../canvas/levelPainter";
import { Cap, Num, PaneHead, Scroll } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import { clamp } from "../../model/values";
import type { Base } from "../../model/why";
import { backLevels, useBack } from "../../stores/back";
import { watchLevels } from "../../stores/live";
import { levels } from "../../stores/pictures";
import { useView } from "../../stores/view";
import { universesOf } from "../patch/universes";
import { SIGHTS, type Sight } from "./Lamps";
import { LookBack } from "./LookBack";
import { OwnerLine } from "./OwnerLine";
import { ReceivedMap } from "./ReceivedMap";
import { useOwners } from "./useOwners";

const BEFORE_MS = 150;

/** All 512 values of a universe as sent; the owner of a channel on hover and by the arrow keys. */
interface MapProps {
  show: WholeShow;
  channel: number;
  onChannel: (channel: number) => void;
  onSight: (sight: Sight) => void;
}

export function LevelMap({ show, channel, onChannel: setChannel, onSight }: MapProps) {
  const universe = useView((view) => view.universe);
  const [base, setBase] = useState<Base>("0-255");
  const [of, setOf] = useState<"sent" | "before" | "received">("sent");
  /** A click keeps the channel while the pointer goes elsewhere, to its fader for one. */
  const [pinned, setPinned] = useState(false);
  const canvas = useRef<HTMLCanvasElement>(null);
  const known = useMemo(() => universesOf(show), [show]);
  const { data, error, owners } = useOwners(universe);
  useEffect(() => watchLevels(universe), [universe]);
  const back = useBack((one) => one.moment !== null);
  const held = useRef<{ back: boolean; before: Uint8Array | null }>({ back: false, before: null });
  held.current.back = back;
  useEffect(() => {
    held.current.before = null;
    if (of !== "before") return;
    let gone = false;
    const ask = async () => {
      const path = { universe };
      const found = await answer(
        client.GET("/api/levels/{universe}/before-desk", { params: { path } }),
      ).catch(() => null);
      if (gone) return;
      if (found) held.current.before = Uint8Array.from(found.levels);
      timer = setTimeout(ask, BEFORE_MS);
    };
    let timer = setTimeout(ask, 0);
    return () => {
      gone = true;
      clearTimeout(timer);
      held.current.before = null;
    };
  }, [of, universe]);
  const view = useRef({ owners, channel, base });
  view.current = { owners, channel, base };

  useEffect(() => {
    let handle = 0;
    const seen = { values: new Uint8Array(512), at: new Float64Array(512).fill(Number.NEGATIVE_INFINITY) };
    let first = true;
    const draw = () => {
      handle = requestAnimationFrame(draw);
      const values = held.current.back
        ? backLevels.current
        : (held.current.before ?? levels.get(universe)?.values);
      if (values) {
        const now = performance.now();
        for (let n = 0; n < 512; n++)
          if (seen.values[n] !== values[n]) {
            seen.values[n] = values[n] ?? 0;
            if (!first) seen.at[n] = now;
          }
        first = false;
      }
      const { owners, channel, base } = view.current;
      paint({ canvas: canvas.current, values, owners, channel, base, changed: seen.at });
    };
    draw();
    return () => cancelAnimationFrame(handle);
  }, [universe]);

  const pin = () => setPinned((before) => !before);
  const go = (number: number) => {
    if (number >= 1 && number <= 63999) useView.setState({ universe: number });
  };
  const at = (event: React.PointerEvent) => {
    if (pinned) return;
    const box = event.currentTarget.getBoundingClientRect();
    const x = Math.floor((event.clientX - box.left - LEFT) / CELL.width);
    const y = Math.floor((event.clientY - box.top) / CELL.height);
    const next = y * ACROSS + x + 1;
    if (x >= 0 && x < ACROSS && next <= 512) setChannel(next);
  };
  const onKey = (event: React.KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -ACROSS, ArrowDown: ACROSS }[event.key];
    if (!step) return;
    event.preventDefault();
    setChannel(clamp(channel + step, 1, 512));
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
      <Box sx={{ display: "flex", justifyContent: "space-between", px: 2, pb: 0.75 }}>
        <Choices
          names={[
            ["sent", "sent"],
            ["before", "before desk"],
            ["received", "received"],
          ]}
          chosen={of}
          onChoose={setOf}
        />
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
          <Box
            sx={{
              px: 2,
              pb: 1,
              display: "flex",
              gap: 0.5,
              flexWrap: "wrap",
              maxHeight: 62,
              overflowY: "auto",
            }}
          >
            {known.slice(0, 128).map((one) => (
              <Button
                key={one.number}
                aria-pressed={one.number === universe}
                color={one.number === universe ? "primary" : "inherit"}
                onClick={() => go(one.number)}
              >
                <Num>U{one.number}</Num>
              </Button>
            ))}
          </Box>
          <Scroll sx={{ pl: 1.5 }}>
            <canvas
              data-live
              ref={canvas}
              tabIndex={0}
              role="application"
              aria-label={`Channels of universe ${universe}`}
              onPointerMove={at}
              onClick={pin}
              onKeyDown={onKey}
              style={{ width: LEFT + ACROSS * CELL.width, height: ROWS * CELL.height, display: "block" }}
            />
          </Scroll>
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
