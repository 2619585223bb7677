import { Box } from "@mui/material";
import { memo, useCallback, useEffect, useRef } from "react";
import { Cap, Num } from "../../components/atoms";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { type Finding, FindingSign } from "./findings";
import { OnPiece, OnRuler, RunName } from "./rulerPieces";
import { SentEdge } from "./SentEdge";
import { otherCounting, type Universe, wireNumber } from "./universes";
import type { Dragged, FixtureDrag } from "./useFixtureDrag";

/** Signs beside a universe's number; more are read at the doctor. */
const SIGNS_MOST = 3;
const TICKS = [1, 128, 256, 384, 512];

/** What the columns of the rulers are: channel numbers over the ticks, and what is free. */
export function RulerHead() {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "112px 512px minmax(28px, 1fr)",
        columnGap: 1,
        px: 2,
        pb: "2px",
        fontSize: 12,
        color: ink.soft,
      }}
    >
      <span>ours, sent as</span>
      <Box sx={{ position: "relative", height: 16 }}>
        {TICKS.map((tick) => (
          <Num
            key={tick}
            style={{
              position: "absolute",
              left: tick - 1,
              transform: `translateX(${tick === 1 ? 0 : tick === 512 ? -100 : -50}%)`,
            }}
          >
            {tick}
          </Num>
        ))}
      </Box>
      <Box sx={{ textAlign: "right" }}>free</Box>
    </Box>
  );
}

/** Drawn again only where something of it changed: thousands of fixtures lie on hundreds of rulers.
 * One universe as a 512 px ruler: one slot is one pixel. Fixtures lie on it; shared channels are hatched. */
export const UniverseRuler = memo(PlainRuler, (a, b) => {
  const [one, other] = [a.universe, b.universe];
  return (
    a.ghost === b.ghost &&
    a.lifted === b.lifted &&
    a.grip === b.grip &&
    a.findings === b.findings &&
    one.number === other.number &&
    one.free === other.free &&
    one.sentBy.length === other.sentBy.length &&
    one.sentBy.every((output, n) => output === other.sentBy[n]) &&
    one.fixtures.length === other.fixtures.length &&
    one.cells.length === other.cells.length &&
    one.cells[0]?.index === other.cells[0]?.index &&
    one.fixtures.every((piece, n) => {
      const old = other.fixtures[n];
      return old && piece.fixture === old.fixture && piece.first === old.first && piece.last === old.last;
    })
  );
});

interface RulerProps {
  universe: Universe;
  /** What the doctor finds here. */
  findings: Finding[];
  /** What is being dragged over this ruler. */
  ghost: Dragged | null;
  /** The fixture of this ruler that is being dragged, "" for none. */
  lifted: string;
  register: FixtureDrag["register"];
  grip: FixtureDrag["grip"];
}

function PlainRuler({ universe, findings, ghost, lifted, register, grip }: RulerProps) {
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
        gridTemplateColumns: "112px 512px minmax(28px, 1fr)",
        columnGap: 1,
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
          {findings
            .filter((one) => !one.fixture)
            .slice(0, SIGNS_MOST)
            .map((one) => (
              <FindingSign key={one.sentence} finding={one} size={13} />
            ))}
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
          {universe.fixtures.map(({ fixture, first, last, guarded }) => (
            <OnRuler
              key={`${fixture.id} ${first}`}
              fixture={fixture}
              universe={universe.number}
              first={first}
              last={last}
              guarded={guarded}
              chosen={chosen.includes(fixture.id)}
              lifted={lifted === fixture.id}
              grip={grip}
              left={left}
            />
          ))}
          {universe.fixtures.map(({ fixture, first, last }) => {
            const finding = findings.find((one) => one.fixture === fixture.id);
            return finding ? (
              <OnPiece key={`${fixture.id} ${first}`} finding={finding} first={first} last={last} />
            ) : null;
          })}
          <SentEdge cellsHere={universe.cells} />
          {universe.runs.map((run) => (
            <RunName key={run.first} run={run} />
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
      <Cap sx={{ pt: 0.5, textAlign: "right" }} title={`${universe.free} channels are free`}>
        <Num>{universe.free}</Num>
      </Cap>
    </Box>
  );
}
