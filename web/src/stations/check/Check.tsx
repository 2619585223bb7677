import { Box } from "@mui/material";
import { useState } from "react";
import { useShow } from "../../api/show";
import { Pane, PaneHead, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { useView } from "../../stores/view";
import { EventLog } from "./EventLog";
import { Health } from "./Health";
import { Held } from "./Held";
import { LevelMap } from "./LevelMap";
import { Why, WhyDark } from "./Why";

/** Station 6: what every channel sends and who owns it, health, events. */
export function Check() {
  const { data, error } = useShow();
  const universe = useView((view) => view.universe);
  const [channel, setChannel] = useState(1);
  const [owner, setOwner] = useState("");
  return (
    <Box component="main" sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) 352px", minHeight: 0 }}>
      <Pane>
        {data ? (
          <LevelMap show={data} channel={channel} onChannel={setChannel} onOwner={setOwner} />
        ) : (
          <Loading error={error} />
        )}
      </Pane>
      <Pane>
        <Scroll>
          <Why universe={universe} channel={channel} />
          {data && <WhyDark show={data} written={owner} />}
          {data && <Held show={data} />}
          <PaneHead title="Health" />
          {data && <Health show={data} />}
          <EventLog />
        </Scroll>
      </Pane>
    </Box>
  );
}
