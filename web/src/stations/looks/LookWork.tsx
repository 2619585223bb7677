import { Box, Button } from "@mui/material";
import { answer, client, type LookView, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit, useEffects } from "../../api/show";
import { Cap, Chip, KeyCap, Scroll } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import type { Layer } from "../../model/layers";
import { command, useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { LayerLine } from "./LayerLine";

/** One look: its name, whether it is on, its lines from the top of the stack down. */
export function LookWork({ show, look }: { show: WholeShow; look: LookView }) {
  const edit = useEdit();
  const { data: effects } = useEffects();
  const on = useLive((live) => live.engine?.state.running.some((run) => run.look === look.id)) ?? false;
  const known = useLive((live) => live.engine !== null);
  const layers = look.layers as unknown as Layer[];
  const painted = [...new Set(layers.map((layer) => layer.matrix))];
  const names = painted.map((id) => show.matrices.find((m) => m.id === id)?.name).filter(Boolean);
  const params = { path: { look_id: look.id } };

  const add = async (what: { effect?: string; clip?: string }) => {
    const matrix = painted[0] ?? show.matrices[0]?.id;
    if (!matrix) return;
    const id = newId();
    const body = {
      id,
      matrix,
      paints: what.clip ? ("clip" as const) : ("effect" as const),
      effect: what.effect ?? "",
      clip: what.clip ?? "",
      ramp: [[0, 255, 206, 128]] as [number, number, number, number][],
      speed: { value: what.clip ? 1 : 4, unit: "s" as const },
      direction: "forward" as const,
      opacity: 1,
      blend: "over" as const,
      mute: false,
      params: {},
    };
    if (await edit(() => answer(client.POST("/api/looks/{look_id}/layers", { params, body }))))
      useView.setState({ layer: id });
  };
  const remove = async () => {
    command({ do: "stop", look: look.id });
    if (await edit(() => answer(client.DELETE("/api/looks/{look_id}", { params }))))
      useView.setState({ look: null });
  };

  return (
    <>
      <Box
        sx={{
          px: 2,
          py: 1.5,
          display: "flex",
          alignItems: "center",
          gap: 1.5,
          borderBottom: `1px solid ${ink.hair}`,
        }}
      >
        <Box sx={{ flex: 1, minWidth: 0, ml: -0.75 }}>
          <Box sx={{ "& input": { fontSize: 21, fontWeight: 620, height: 32 } }}>
            <Typed
              quiet
              label="Name of the look"
              value={look.name}
              onCommit={(name) =>
                edit(() =>
                  answer(client.PATCH("/api/looks/{look_id}", { params, body: { name, rev: look.rev } })),
                )
              }
            />
          </Box>
          <Cap sx={{ pl: 0.75 }}>{names.length ? `paints ${names.join(" and ")}` : "paints nothing yet"}</Cap>
        </Box>
        <Button variant="text" sx={{ color: ink.soft }} onClick={remove}>
          Delete
        </Button>
        <Button
          variant={on ? "contained" : "outlined"}
          color="primary"
          aria-pressed={on}
          disabled={!known}
          onClick={() => command({ do: on ? "stop" : "start", look: look.id })}
        >
          {on ? "On" : "Off"} <KeyCap sx={{ color: "inherit", borderColor: "currentcolor" }}>Space</KeyCap>
        </Button>
      </Box>
      <Scroll>
        {layers.length === 0 && (
          <Box sx={{ p: 2.5, color: ink.soft }}>
            This look has no lines yet. Add one below; the top line covers those beneath.
          </Box>
        )}
        {[...layers].reverse().map((layer, index) => (
          <LayerLine
            key={layer.id}
            show={show}
            look={look}
            layer={layer}
            effects={effects ?? []}
            place={layers.length - index}
          />
        ))}
        <Box sx={{ px: 2.5, py: 2, display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
          <Cap>Add a line:</Cap>
          {(effects ?? []).map((effect) => (
            <Chip
              key={effect.name}
              title={effect.says}
              disabled={!show.matrices.length}
              onClick={() => add({ effect: effect.name })}
            >
              {effect.name}
            </Chip>
          ))}
          {show.clips.map((clip) => (
            <Chip key={clip.id} disabled={!show.matrices.length} onClick={() => add({ clip: clip.id })}>
              clip {clip.name}
            </Chip>
          ))}
          {!show.matrices.length && <Cap>There is no matrix to paint on: make one first (key 3).</Cap>}
        </Box>
      </Scroll>
    </>
  );
}
