import { Box } from "@mui/material";
import { useCallback, useEffect, useState } from "react";
import { useShow } from "../../api/show";
import { Pane, PaneHead, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { useView } from "../../stores/view";
import { EventLog } from "./EventLog";
import { Health } from "./Health";
import { Held } from "./Held";
import { Lamps } from "./Lamps";
import { LeftPlaces } from "./LeftPlaces";
import { LevelMap } from "./LevelMap";
import { useOwners } from "./useOwners";
import { Why, WhyDark } from "./Why";
import { useWalk } from "./walk/useWalk";
import { WalkPanel } from "./walk/WalkPanel";

/** Station 6: test walks and health, what every channel sends or every lamp shows, and why. */
export function Check() {
  const { data, error } = useShow();
  const walk = useWalk();
  const universe = useView((view) => view.universe);
  const [channel, setChannel] = useState(1);
  /** The cell that was chosen among the lamps; among the channels it is the first owner of the one looked at. */
  const [cell, setCell] = useState("");
  const [sight, setSight] = useState<"channels" | "lamps">("channels");
  const walked = walk?.running ? walk.matrix : "";
  useEffect(() => {
    if (walked) setSight("lamps");
  }, [walked]);
  const address = useCallback((written: string) => {
    const match = /^U(\d+)\.(\d+)$/.exec(written);
    if (!match) return;
    useView.setState({ universe: Number(match[1]) });
    setChannel(Number(match[2]));
  }, []);
  const place = walk?.running ? walk.place || walk.label : "";
  useEffect(() => address(place), [place, address]);
  const { owners } = useOwners(universe);
  if (!data) return <Loading error={error} />;
  const byLamps = sight === "lamps" && data.matrices.length > 0;
  const owner = byLamps ? cell : (owners.get(channel)?.[0]?.written ?? "");
  return (
    <Box
      component="main"
      sx={{
        display: "grid",
        gridTemplateColumns: "clamp(220px, 22vw, 340px) minmax(0,1fr) clamp(272px, 24.5vw, 460px)",
        minHeight: 0,
      }}
    >
      <Pane>
        <Scroll>
          <WalkPanel show={data} walk={walk} />
          <PaneHead title="Health" />
          <Health show={data} />
          <EventLog />
        </Scroll>
      </Pane>
      <Pane>
        {byLamps ? (
          <Lamps
            show={data}
            walk={walk?.running ? walk : null}
            onSight={setSight}
            onCell={(bead, place) => {
              setCell(`${bead.fixture.number}:${bead.cell}`);
              address(place);
            }}
          />
        ) : (
          <LevelMap show={data} channel={channel} onChannel={setChannel} onSight={setSight} />
        )}
      </Pane>
      <Pane>
        <Scroll>
          <Why universe={universe} channel={channel} />
          <WhyDark show={data} written={owner} />
          <LeftPlaces />
          <Held
            show={data}
            onPlace={(place) => {
              setSight("channels");
              address(place);
            }}
          />
        </Scroll>
      </Pane>
    </Box>
  );
}
