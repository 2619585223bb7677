import { Box, Tooltip } from "@mui/material";
import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";
import { Cap, Num } from "../../components/atoms";
import { chooseFixtures, useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { otherCounting, type Universe, wireNumber } from "./universes";
import type { FixtureDrag } from "./useFixtureDrag";

const TICKS = [1, 128, 256, 384, 512];

/** One universe as a 512 px ruler: one slot is one pixel. Fixtures lie on it; shared channels are hatched. */
export function UniverseRuler({ universe, drag }: { universe: Universe; drag: FixtureDrag }) {
  const ruler = useRef<HTMLDivElement>(null);
  const { dragged, register, grip } = drag;
  useEffect(() => {
    const where = () => ({
      universe: universe.number,
      box: ruler.current?.getBoundingClientRect() ?? new DOMRect(),
      fixtures: universe.fixtures,
    });
    const stop = register(universe.number, where);
    return () => {
      stop();
    };
  }, [register, universe]);
  const ghost = dragged?.universe === universe.number ? dragged : null;
  const chosen = useView((view) => view.fixtures);
  const navigate = useNavigate();
  const wires = universe.sentBy.map(
    (output) => `${wireNumber(output, universe.number)}${output.on ? "" : ", off"}`,
  );
  const [first] = universe.sentBy;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "120px 512px 1fr",
        columnGap: 1.5,
        px: 2,
        py: 1,
        // Rulers out of sight are neither laid out nor painted, so thousands of universes scroll.
        contentVisibility: "auto",
        containIntrinsicSize: "auto 68px",
      }}
    >
      <div>
        <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "baseline" }}>
          <Num style={{ fontWeight: 600 }}>U{universe.number}</Num>
        </Box>
        <Cap
          sx={{
            whiteSpace: "nowrap",
            overflow: "hidden",
            textOverflow: "ellipsis",
            color: wires.length ? ink.soft : ink.brass,
          }}
        >
          {wires.join(" and ") || "no output"}
        </Cap>
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
          {universe.fixtures.map(({ fixture, first, last }) => {
            const conflict = fixture.conflict.length > 0;
            const on = chosen.includes(fixture.id);
            return (
              <Tooltip
                key={`${fixture.id} ${first}`}
                title={`${fixture.number} ${fixture.name}, U${universe.number}.${first} to ${last}${conflict ? `, shares channels with ${fixture.conflict.join(", ")}` : ""}`}
              >
                <Box
                  component="button"
                  aria-label={`${fixture.number} on U${universe.number}`}
                  {...grip(fixture, first, () => ruler.current?.getBoundingClientRect().left ?? 0)}
                  onClick={() => chooseFixtures([fixture.id])}
                  onDoubleClick={() => navigate("/rig")}
                  sx={{
                    position: "absolute",
                    left: `${first - 1}px`,
                    width: `${last - first + 1}px`,
                    top: 0,
                    height: 24,
                    p: 0,
                    pl: last - first > 20 ? 0.5 : 0,
                    textAlign: "left",
                    overflow: "hidden",
                    font: `500 12px ${mono}`,
                    color: on ? ink.brass : ink.text,
                    background: conflict
                      ? `repeating-linear-gradient(135deg, ${ink.hair2} 0 3px, transparent 3px 7px)`
                      : on
                        ? ink.brassGround
                        : ink.hair,
                    border: `${last - first < 3 ? 0 : 1}px solid ${on ? ink.brass : ink.ground}`,
                    borderRightWidth: last === first ? 0 : 1,
                    cursor: "grab",
                    opacity: dragged?.fixture.id === fixture.id ? 0.45 : 1,
                  }}
                >
                  {last - first > 20 ? fixture.number : ""}
                </Box>
              </Tooltip>
            );
          })}
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
        <Box sx={{ position: "relative", height: 12 }} aria-hidden="true">
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
