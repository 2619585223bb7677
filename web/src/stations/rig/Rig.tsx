import { Box } from "@mui/material";
import { useShow } from "../../api/show";
import { Empty, Pane } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { AddLine } from "./AddLine";
import { FixtureDetail } from "./FixtureDetail";
import { FixtureTable } from "./FixtureTable";

/** Station 1: what hangs there. Table, detail, and the typed line that adds. */
export function Rig() {
  const { data, error } = useShow();
  return (
    <Box component="main" sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) 352px", minHeight: 0 }}>
      <Pane>
        {!data ? (
          <Loading error={error} />
        ) : (
          <>
            {data.fixtures.length ? (
              <FixtureTable show={data} />
            ) : (
              <Box sx={{ flex: 1 }}>
                <Empty title="Nothing hangs here yet">
                  Type what you have into the line below, the way you would say it: <b>16 x RGB lamp</b>, or{" "}
                  <b>18 x RGB pixel strip, mode 50 RGB, from 101, Tower {"{n}"}</b>. Numbers and addresses
                  count on by themselves, and you see all of them before anything is added.
                </Empty>
              </Box>
            )}
            <AddLine show={data} />
          </>
        )}
      </Pane>
      <Pane aria-label="Detail">{data && <FixtureDetail show={data} />}</Pane>
    </Box>
  );
}
