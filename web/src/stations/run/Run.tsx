import { Box, Button } from "@mui/material";
import { useEffect } from "react";
import { useShow } from "../../api/show";
import { Cap, Empty, Pane, PaneHead, Scroll } from "../../components/atoms";
import { PictureCanvas } from "../../components/PictureCanvas";
import { PreviewCanvas } from "../../components/PreviewCanvas";
import { act } from "../../stores/hands";
import { useLive, watchLooks } from "../../stores/live";
import { ink } from "../../theme/tokens";
import { Masters } from "./Masters";
import { Running } from "./Running";
import { ShowTime } from "./ShowTime";

/** Station 5: what runs now, and plainly what is not there yet. */
export function Run() {
  const { data } = useShow();
  const running = useLive((live) => live.engine?.state.running) ?? [];
  const heard = useLive((live) => live.engine !== null);
  const looks = new Map(data?.looks.map((look) => [look.id, look]));
  const ready = [...looks.values()].filter((look) => !running.some((run) => run.look === look.id));
  const listed = ready.map((look) => look.id).join();
  useEffect(() => watchLooks("", listed ? listed.split(",") : []), [listed]);
  useEffect(() => () => watchLooks("", []), []);
  return (
    <Box component="main" sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) 352px", minHeight: 0 }}>
      <Pane>
        <PaneHead title="Now">
          <Cap>{running.length === 1 ? "1 look is on" : `${running.length} looks are on`}</Cap>
        </PaneHead>
        {!heard && <Empty title="Not heard yet">The engine has not told this page what runs.</Empty>}
        {heard && running.length === 0 && (
          <Empty title="Nothing runs">Start a look here or at Looks; what is on stands in this list.</Empty>
        )}
        {running.map((run) => (
          <Running key={run.look} run={run} name={looks.get(run.look)?.name ?? "a look that is gone"} />
        ))}
        <PaneHead title="Ready" sx={{ borderTop: `1px solid ${ink.hair}` }}>
          <Cap>miniatures, not sent</Cap>
        </PaneHead>
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: "repeat(auto-fill, minmax(216px, 1fr))",
            gap: 1,
            px: 2,
            pb: 2,
            maxHeight: 176,
            overflowY: "auto",
            flex: "none",
          }}
        >
          {ready.map((look) => (
            <Button
              key={look.id}
              onClick={() => act(`look/${look.id}/on`, true)}
              title={`Start ${look.name}`}
              sx={{ p: 0.75, gap: 1.25, justifyContent: "flex-start" }}
            >
              <PreviewCanvas kind="look" id={look.id} label="" width={64} height={28} smooth />
              <Box component="span" sx={{ overflow: "hidden", textOverflow: "ellipsis" }}>
                Start {look.name}
              </Box>
            </Button>
          ))}
          {!ready.length && <Cap>{looks.size ? "Every look is on." : "There is no look yet: key 4."}</Cap>}
        </Box>
        <PaneHead title="Sent" sx={{ borderTop: `1px solid ${ink.hair}` }}>
          <Cap>read back from the wire</Cap>
        </PaneHead>
        <Scroll>
          <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "flex-end", gap: 3, px: 2, pb: 2 }}>
            {data?.matrices.map((matrix) => {
              const scale = Math.min(250 / matrix.width, 210 / matrix.height, 26);
              return (
                <div key={matrix.id}>
                  <PictureCanvas
                    matrix={matrix.id}
                    label={`${matrix.name} as sent, large`}
                    width={matrix.width * scale}
                    height={matrix.height * scale}
                    lamps
                  />
                  <Cap sx={{ mt: 0.5 }}>{matrix.name}</Cap>
                </div>
              );
            })}
          </Box>
        </Scroll>
      </Pane>
      <Pane>
        <ShowTime />
        {data && <Masters show={data} />}
        <PaneHead title="Not here yet" sx={{ borderTop: `1px solid ${ink.hair}` }} />
        <Cap sx={{ px: 2, fontSize: 13, lineHeight: "19px" }}>
          Cue lists with fades, hold and follow, pages for a tablet and input from a desk are not built yet.
          What you can do today: start and stop looks, several at once, later ones over earlier ones, each
          faded by hand; tempo, master, freeze and blackout below.
        </Cap>
      </Pane>
    </Box>
  );
}
