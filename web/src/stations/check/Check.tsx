import { Box } from "@mui/material";
import { useShow } from "../../api/show";
import { Pane, PaneHead, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { EventLog } from "./EventLog";
import { Health } from "./Health";
import { LevelMap } from "./LevelMap";

/** Station 6: what every channel sends and who owns it, health, events. */
export function Check() {
  const { data, error } = useShow();
  return (
    <Box component="main" sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) 352px", minHeight: 0 }}>
      <Pane>{data ? <LevelMap show={data} /> : <Loading error={error} />}</Pane>
      <Pane>
        <Scroll>
          <PaneHead title="Health" />
          {data && <Health show={data} />}
          <EventLog />
        </Scroll>
      </Pane>
    </Box>
  );
}
