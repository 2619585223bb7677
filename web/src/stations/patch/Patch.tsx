import { Box, Button } from "@mui/material";
import { useMemo, useState } from "react";
import { useShow } from "../../api/show";
import { Cap, Empty, Pane, PaneHead, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { Addressing } from "./Addressing";
import { BlockLines } from "./BlockLines";
import { Doctor } from "./Doctor";
import { Nodes } from "./Nodes";
import { Outputs } from "./Outputs";
import { SheetPanel } from "./SheetPanel";
import { UniverseRuler } from "./UniverseRuler";
import { universesOf } from "./universes";
import { useFixtureDrag } from "./useFixtureDrag";

/** Station 2: universes with what lies on them, outputs with every counting, the nodes heard. */
export function Patch() {
  const { data, error } = useShow();
  const [panel, setPanel] = useState<"address" | "sheet" | null>(null);
  const drag = useFixtureDrag();
  const universes = useMemo(() => (data ? universesOf(data) : []), [data]);
  const unsent = universes.filter((u) => u.fixtures.length && !u.sentBy.some((o) => o.on));
  return (
    <Box component="main" sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) 392px", minHeight: 0 }}>
      <Pane>
        {!data ? (
          <Loading error={error} />
        ) : (
          <>
            <PaneHead title={`${universes.length} universes`}>
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
                  {universes.map((universe) => (
                    <UniverseRuler
                      key={universe.number}
                      universe={universe}
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
      <Pane>
        {data && (
          <Scroll>
            <Doctor show={data} />
            <Outputs show={data} />
            <Nodes show={data} />
          </Scroll>
        )}
      </Pane>
    </Box>
  );
}
