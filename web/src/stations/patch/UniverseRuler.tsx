import { Box } from "@mui/material";
import { memo, useCallback, useEffect, useRef } from "react";
import { useLocation } from "wouter";
import type { FixtureView } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { chooseFixtures, useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { otherCounting, type Universe, wireNumber } from "./universes";
import type { Dragged, FixtureDrag } from "./useFixtureDrag";

const TICKS = [1, 128, 256, 384, 512];

/** Drawn again only where something of it changed: thousands of fixtures lie on hundreds of rulers.
 * One universe as a 512 px ruler: one slot is one pixel. Fixtures lie on it; shared channels are hatched. */
export const UniverseRuler = memo(PlainRuler, (a, b) => {
  const [one, other] = [a.universe, b.universe];
  return (
    a.ghost === b.ghost &&
    a.lifted === b.lifted &&
    a.grip === b.grip &&
    one.number === other.number &&
    one.free === other.free &&
    one.sentBy.length === other.sentBy.length &&
    one.sentBy.every((output, n) => output === other.sentBy[n]) &&
    one.fixtures.length === other.fixtures.length &&
    one.fixtures.every((piece, n) => {
      const old = other.fixtures[n];
      return old && piece.fixture === old.fixture && piece.first === old.first && piece.last === old.last;
    })
  );
});

interface RulerProps {
  universe: Universe;
  /** What is being dragged over this ruler. */
  ghost: Dragged | null;
  /** The fixture of this ruler that is being dragged, "" for none. */
  lifted: string;
  register: FixtureDrag["register"];
  grip: FixtureDrag["grip"];
}

function PlainRuler({ universe, ghost, lifted, register, grip }: RulerProps) {
  const ruler = useRef<HTMLDivElement>(null);
  const left = useCallback(() => ruler.current?.getBoundingClientRect().left ?? 0, []);
  useEffect(() => {
    const stop = register(universe.number, () => universe.fixtures);
    return () => {
      stop();
    };
  }, [register, universe]);
  // As one text: a ruler is drawn again only where something on it is chosen or no longer so.
  const chosen = useView((view) =>
    view.fixtures.length
      ? universe.fixtures
          .filter((one) => view.fixtures.includes(one.fixture.id))
          .map((one) => one.fixture.id)
          .join()
      : "",
  );
  const wires = universe.sentBy.map(
    (output) => `${wireNumber(output, universe.number)}${output.on ? "" : ", off"}`,
  );
  const [first] = universe.sentBy;
  return (
    <Box
      data-row={universe.number}
      sx={{
        display: "grid",
        gridTemplateColumns: "150px 512px 1fr",
        columnGap: 1.5,
        px: 2,
        py: "4px",
        // Rulers out of sight are neither laid out nor painted, so thousands of universes scroll.
        contentVisibility: "auto",
        containIntrinsicSize: "auto 41px",
      }}
    >
      <div>
        <Box sx={{ display: "flex", gap: 1, alignItems: "baseline", lineHeight: "17px" }}>
          <Num style={{ fontWeight: 600 }}>U{universe.number}</Num>
          <Cap
            title={wires.join(" and ")}
            sx={{
              whiteSpace: "nowrap",
              overflow: "hidden",
              textOverflow: "ellipsis",
              color: wires.length ? ink.text : ink.brass,
            }}
          >
            {wires.join(" and ") || "no output"}
          </Cap>
        </Box>
        {first && <Cap sx={{ whiteSpace: "nowrap" }}>{otherCounting(first, universe.number)}</Cap>}
      </div>
      <div>
        <Box
          ref={ruler}
          data-universe={universe.number}
          sx={{
            position: "relative",
            height: 24,
            background: ink.row,
            borderRadius: "2px",
            touchAction: "none",
          }}
        >
          {universe.fixtures.map(({ fixture, first, last }) => (
            <OnRuler
              key={`${fixture.id} ${first}`}
              fixture={fixture}
              universe={universe.number}
              first={first}
              last={last}
              chosen={chosen.includes(fixture.id)}
              lifted={lifted === fixture.id}
              grip={grip}
              left={left}
            />
          ))}
          {ghost && (
            <Box
              sx={{
                position: "absolute",
                left: `${ghost.channel - 1}px`,
                width: `${Math.min(ghost.fixture.footprint, 513 - ghost.channel)}px`,
                top: -3,
                height: 30,
                border: `2px dashed ${ink.brass}`,
                borderRadius: "2px",
                pointerEvents: "none",
              }}
            >
              <Box
                sx={{
                  position: "absolute",
                  top: 30,
                  left: -2,
                  zIndex: 3,
                  px: 0.75,
                  whiteSpace: "nowrap",
                  fontSize: 12.5,
                  lineHeight: "20px",
                  background: ink.panel,
                  border: `1px solid ${ink.brass}`,
                  borderRadius: "3px",
                }}
              >
                <Num>{`U${ghost.universe}.${ghost.channel}`}</Num>
                {ghost.exchange && ` changes places with ${ghost.exchange.number}`}
                {!ghost.exchange &&
                  ghost.channel + ghost.fixture.footprint > 513 &&
                  ` ends at ${ghost.channel + ghost.fixture.footprint - 1}`}
              </Box>
            </Box>
          )}
        </Box>
        <Box sx={{ position: "relative", height: 8 }} aria-hidden="true">
          {TICKS.map((tick) => (
            <Box
              key={tick}
              sx={{
                position: "absolute",
                left: `${tick - 1}px`,
                top: 0,
                height: 5,
                borderLeft: `1px solid ${ink.hair2}`,
              }}
            />
          ))}
        </Box>
      </div>
      <Cap sx={{ pt: 0.5 }}>
        <Num>{universe.free}</Num> free
      </Cap>
    </Box>
  );
}

interface PieceProps {
  fixture: FixtureView;
  universe: number;
  first: number;
  last: number;
  chosen: boolean;
  lifted: boolean;
  grip: FixtureDrag["grip"];
  left: () => number;
}

/** A fixture, or what of it lies on this universe. */
const OnRuler = memo(function OnRuler({
  fixture,
  universe,
  first,
  last,
  chosen,
  lifted,
  grip,
  left,
}: PieceProps) {
  const [, navigate] = useLocation();
  const conflict = fixture.conflict.length > 0;
  const shares = conflict ? `, shares channels with ${fixture.conflict.join(", ")}` : "";
  return (
    <button
      type="button"
      aria-label={`${fixture.number} on U${universe}`}
      title={`${fixture.number} ${fixture.name}, U${universe}.${first} to ${last}${shares}`}
      {...grip(fixture, first, left)}
      onClick={() => chooseFixtures([fixture.id])}
      onDoubleClick={() => navigate("/rig")}
      style={{
        position: "absolute",
        left: first - 1,
        width: last - first + 1,
        top: 0,
        height: 24,
        padding: 0,
        paddingLeft: last - first > 20 ? 4 : 0,
        textAlign: "left",
        overflow: "hidden",
        font: `500 12px ${mono}`,
        color: chosen ? ink.brass : ink.text,
        background: conflict
          ? `repeating-linear-gradient(135deg, ${ink.hair2} 0 3px, transparent 3px 7px)`
          : chosen
            ? ink.brassGround
            : ink.hair,
        border: `${last - first < 3 ? 0 : 1}px solid ${chosen ? ink.brass : ink.ground}`,
        borderRightWidth: last === first ? 0 : 1,
        cursor: "grab",
        opacity: lifted ? 0.45 : 1,
      }}
    >
      {last - first > 20 ? fixture.number : ""}
    </button>
  );
});
