import { Box, Button } from "@mui/material";
import { useShow } from "../../api/show";
import { Cap, Empty, Num, Pane, PaneHead } from "../../components/atoms";
import { PictureCanvas } from "../../components/PictureCanvas";
import { command, useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";
import { ShowTime } from "./ShowTime";

/** Station 5: what runs now, and plainly what is not there yet. */
export function Run() {
  const { data } = useShow();
  const running = useLive((live) => live.engine?.state.running) ?? [];
  const looks = new Map(data?.looks.map((look) => [look.id, look]));
  return (
    <Box component="main" sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) 352px", minHeight: 0 }}>
      <Pane>
        <PaneHead title="Now">
          <Cap>sent, read back from the wire</Cap>
        </PaneHead>
        {running.length === 0 && (
          <Empty title="Nothing runs">Start a look here or at Looks; what is on stands in this list.</Empty>
        )}
        {running.map((run) => (
          <Box
            key={run.look}
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 2,
              px: 2,
              py: 1.25,
              borderTop: `1px solid ${ink.hair}`,
              background: ink.brassGround,
              boxShadow: `inset 3px 0 ${ink.brass}`,
            }}
          >
            <Box sx={{ fontSize: 17, fontWeight: 600 }}>
              {looks.get(run.look)?.name ?? "a look that is gone"}
            </Box>
            <Cap>
              on for <Num>{Math.max(0, Math.round(run.since_s))}</Num> s
            </Cap>
            <Button sx={{ ml: "auto" }} onClick={() => command({ do: "stop", look: run.look })}>
              Stop
            </Button>
          </Box>
        ))}
        <Box
          sx={{ display: "flex", gap: 1, flexWrap: "wrap", px: 2, py: 2, borderTop: `1px solid ${ink.hair}` }}
        >
          {[...looks.values()]
            .filter((look) => !running.some((run) => run.look === look.id))
            .map((look) => (
              <Button key={look.id} onClick={() => command({ do: "start", look: look.id })}>
                Start {look.name}
              </Button>
            ))}
        </Box>
        <Box sx={{ display: "flex", gap: 3, px: 2, flexWrap: "wrap", overflow: "hidden" }}>
          {data?.matrices.slice(0, 4).map((matrix) => {
            const scale = Math.min(300 / matrix.width, 300 / matrix.height);
            return (
              <div key={matrix.id}>
                <PictureCanvas
                  matrix={matrix.id}
                  label={`${matrix.name} as sent, large`}
                  width={matrix.width * scale}
                  height={matrix.height * scale}
                />
                <Cap sx={{ mt: 0.5 }}>{matrix.name}</Cap>
              </div>
            );
          })}
        </Box>
      </Pane>
      <Pane>
        <ShowTime />
        <PaneHead title="Not here yet" sx={{ borderTop: `1px solid ${ink.hair}` }} />
        <Cap sx={{ px: 2, fontSize: 13, lineHeight: "19px" }}>
          Cue lists with fades, hold and follow, pages for a tablet, group masters and input from a desk are
          not built yet. What you can do today: start and stop looks, several at once, later ones over earlier
          ones; tempo, master, freeze and blackout below.
        </Cap>
      </Pane>
    </Box>
  );
}
