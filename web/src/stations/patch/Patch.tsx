import { Box, Button } from "@mui/material";
import { useMemo, useState } from "react";
import { useShow } from "../../api/show";
import { Cap, Empty, Pane, PaneHead, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { Addressing } from "./Addressing";
import { BlockLines } from "./BlockLines";
import { Doctor } from "./Doctor";
import { useFindingsOn } from "./findings";
import { Nodes } from "./Nodes";
import { Outputs } from "./Outputs";
import { SheetPanel } from "./SheetPanel";
import { RulerHead, UniverseRuler } from "./UniverseRuler";
import { universesOf } from "./universes";
import { useFixtureDrag } from "./useFixtureDrag";

/** The doctor has a column of its own where there is room for it, else it stands above the outputs. */
const COLUMNS = {
  display: "grid",
  minHeight: 0,
  gridTemplateAreas: '"doctor universes outputs"',
  gridTemplateColumns: "236px minmax(0,1fr) 340px",
  "@media (max-width: 1199px)": {
    gridTemplateAreas: '"universes doctor" "universes outputs"',
    gridTemplateColumns: "minmax(0,1fr) 320px",
    gridTemplateRows: "minmax(0, 0.6fr) minmax(0, 1fr)",
  },
} as const;

/** Station 2: universes with what lies on them, outputs with every counting, the nodes heard. */
export function Patch() {
  const { data, error } = useShow();
  const [panel, setPanel] = useState<"address" | "sheet" | null>(null);
  const drag = useFixtureDrag();
  const universes = useMemo(() => (data ? universesOf(data) : []), [data]);
  const findingsOn = useFindingsOn(data);
  const unsent = universes.filter((u) => u.fixtures.length && !u.sentBy.some((o) => o.on));
  return (
    <Box component="main" sx={COLUMNS}>
      <Pane sx={{ gridArea: "doctor" }}>
        {data && (
          <Scroll tabIndex={0} role="group" aria-label="Patch doctor and nodes">
            <Doctor show={data} />
            <Nodes show={data} />
          </Scroll>
        )}
      </Pane>
      <Pane sx={{ gridArea: "universes" }}>
        {!data ? (
          <Loading error={error} />
        ) : (
          <>
            <PaneHead title={`${universes.length} ${universes.length === 1 ? "universe" : "universes"}`}>
              <Cap>
                {unsent.length
                  ? `${unsent.length === 1 ? "1 carries" : `${unsent.length} carry`} fixtures and no output sends ${unsent.length === 1 ? "it" : "them"}`
                  : "every universe with fixtures is sent"}
              </Cap>
              <Button
                aria-pressed={panel === "sheet"}
                onClick={() => setPanel(panel === "sheet" ? null : "sheet")}
              >
                Patch sheet
              </Button>
              <Button
                aria-pressed={panel === "address"}
                disabled={!data.fixtures.length}
                onClick={() => setPanel(panel === "address" ? null : "address")}
              >
                Address automatically
              </Button>
            </PaneHead>
            {panel === "address" && <Addressing show={data} onClose={() => setPanel(null)} />}
            {panel === "sheet" && <SheetPanel onClose={() => setPanel(null)} />}
            <Scroll>
              {universes.length ? (
                <Box sx={{ position: "relative" }}>
                  <RulerHead />
                  {universes.map((universe) => (
                    <UniverseRuler
                      key={universe.number}
                      universe={universe}
                      findings={findingsOn(universe.number)}
                      ghost={drag.dragged?.universe === universe.number ? drag.dragged : null}
                      lifted={
                        universe.fixtures.some((one) => one.fixture === drag.dragged?.fixture)
                          ? (drag.dragged?.fixture.id ?? "")
                          : ""
                      }
                      register={drag.register}
                      grip={drag.grip}
                    />
                  ))}
                  <BlockLines universes={universes} />
                </Box>
              ) : (
                <Empty title="No universes yet">
                  A universe appears here as soon as a fixture lies on it (Rig) or an output sends it. Begin
                  with an output at the right to see whether your node answers.
                </Empty>
              )}
            </Scroll>
          </>
        )}
      </Pane>
      <Pane sx={{ gridArea: "outputs" }}>
        {data && (
          <Scroll>
            <Outputs show={data} />
          </Scroll>
        )}
      </Pane>
    </Box>
  );
}
