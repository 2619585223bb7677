import { Box, Tooltip } from "@mui/material";
import { useNavigate } from "react-router";
import { Cap, Num } from "../../components/atoms";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { otherCounting, type Universe, wireNumber } from "./universes";

const TICKS = [1, 128, 256, 384, 512];

/** One universe as a 512 px ruler: one slot is one pixel. Fixtures lie on it; shared channels are hatched. */
export function UniverseRuler({ universe }: { universe: Universe }) {
  const chosen = useView((view) => view.fixtures);
  const navigate = useNavigate();
  const wires = universe.sentBy.map(
    (output) => `${wireNumber(output, universe.number)}${output.on ? "" : ", off"}`,
  );
  const [first] = universe.sentBy;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "120px 512px 1fr", columnGap: 1.5, px: 2, py: 1 }}>
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
        <Box sx={{ position: "relative", height: 24, background: ink.row, borderRadius: "2px" }}>
          {universe.fixtures.map(({ fixture, first, last }) => {
            const conflict = fixture.conflict.length > 0;
            const on = chosen.includes(fixture.id);
            return (
              <Tooltip
                key={fixture.id}
                title={`${fixture.number} ${fixture.name}, U${universe.number}.${first} to ${last}${conflict ? `, shares channels with ${fixture.conflict.join(", ")}` : ""}`}
              >
                <Box
                  component="button"
                  onClick={() => useView.setState({ fixtures: [fixture.id] })}
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
                    cursor: "pointer",
                  }}
                >
                  {last - first > 20 ? fixture.number : ""}
                </Box>
              </Tooltip>
            );
          })}
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
