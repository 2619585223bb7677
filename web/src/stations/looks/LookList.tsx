import { Box, Button } from "@mui/material";
import { answer, client, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, PaneHead, Scroll } from "../../components/atoms";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { Clips } from "./Clips";

/** All looks, which of them are on; below them the clips. */
export function LookList({ show, chosen }: { show: WholeShow; chosen: string | undefined }) {
  const running = useLive((live) => live.engine?.state.running);
  const edit = useEdit();
  const add = async () => {
    const id = newId();
    const body = { id, name: `Look ${show.looks.length + 1}`, layers: [] };
    if (await edit(() => answer(client.POST("/api/looks", { body }))))
      useView.setState({ look: id, layer: null });
  };
  return (
    <>
      <PaneHead title="Looks">
        <Button onClick={add}>New</Button>
      </PaneHead>
      <Scroll>
        {show.looks.map((look) => {
          const on = running?.some((run) => run.look === look.id);
          const here = look.id === chosen;
          return (
            <Box
              key={look.id}
              component="button"
              aria-pressed={here}
              onClick={() => useView.setState({ look: look.id, layer: null })}
              sx={{
                display: "grid",
                gridTemplateColumns: "14px 1fr",
                gap: 1,
                alignItems: "baseline",
                width: "100%",
                textAlign: "left",
                font: "inherit",
                color: "inherit",
                background: here ? ink.brassGround : "none",
                border: 0,
                borderLeft: `3px solid ${here ? ink.brass : "transparent"}`,
                px: 1.5,
                py: 0.9,
                cursor: "pointer",
                "&:hover": { background: here ? ink.brassGround : ink.row },
              }}
            >
              <svg width="10" height="10" aria-hidden="true">
                <circle cx="5" cy="5" r="4" fill={on ? ink.sea : "none"} stroke={on ? ink.sea : ink.faint} />
              </svg>
              <span>
                {look.name}
                <Cap>
                  {on ? "on" : "off"}, {look.layers.length === 1 ? "1 line" : `${look.layers.length} lines`}
                </Cap>
              </span>
            </Box>
          );
        })}
      </Scroll>
      <Clips show={show} />
    </>
  );
}
