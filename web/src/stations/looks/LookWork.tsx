import { Box, Button } from "@mui/material";
import { answer, client, type LookView, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit, useEffects } from "../../api/show";
import { Cap, Chip, FaultNote, KeyCap } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { linesOf } from "../../model/lines";
import { act } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { DropZone } from "./DropZone";
import { LineRow } from "./LineRow";
import { clipLine, effectLine } from "./newLines";
import { useUploads } from "./useUploads";

/** One look: its name, whether it is on, its lines from the top of the stack down. */
export function LookWork({ show, look }: { show: WholeShow; look: LookView }) {
  const edit = useEdit();
  const { data: effects } = useEffects();
  const on = useLive((live) => live.engine?.state.running.some((run) => run.look === look.id)) ?? false;
  const known = useLive((live) => live.engine !== null);
  const lines = linesOf(look);
  const painted = [...new Set(lines.map((line) => line.matrix))];
  const names = painted.map((id) => show.matrices.find((m) => m.id === id)?.name).filter(Boolean);
  const params = { path: { look_id: look.id } };

  const uploads = useUploads();
  const matrix = painted[0] ?? show.matrices[0]?.id;
  const add = async (body: ReturnType<typeof effectLine> | ReturnType<typeof clipLine>) => {
    if (await edit(() => answer(client.POST("/api/looks/{look_id}/lines", { params, body }))))
      useView.setState({ line: body.id });
  };
  const drop = async (files: File[]) => {
    for (const clip of await uploads.take(files)) if (matrix) await add(clipLine(clip, matrix));
  };
  const duplicate = async () => {
    const id = newId();
    const copies = lines.map((line) => ({ ...line, id: newId() })) as Schemas["LineBody"][];
    const body = { id, name: `${look.name}, copy`, lines: copies };
    if (await edit(() => answer(client.POST("/api/looks", { body }))))
      useView.setState({ look: id, line: null });
  };
  const remove = async () => {
    act(`look/${look.id}/on`, false);
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
          <Cap sx={{ pl: 0.75 }}>{names.length ? `paints ${listed(names)}` : "paints nothing yet"}</Cap>
        </Box>
        <Button variant="text" sx={{ color: ink.soft }} title="A copy of this look, off" onClick={duplicate}>
          Duplicate
        </Button>
        <Button variant="text" sx={{ color: ink.soft }} onClick={remove}>
          Delete
        </Button>
        <Button
          variant={on ? "contained" : "outlined"}
          color="primary"
          aria-pressed={on}
          disabled={!known}
          onClick={() => act(`look/${look.id}/on`, !on)}
        >
          {on ? "On" : "Off"} <KeyCap sx={{ color: "inherit", borderColor: "currentcolor" }}>Space</KeyCap>
        </Button>
      </Box>
      <DropZone onFiles={drop} sx={{ overflowY: "auto", minHeight: 0, flex: 1 }}>
        {lines.length === 0 && (
          <Box sx={{ p: 2.5, color: ink.soft }}>
            This look has no lines yet. Add one below; the top line covers those beneath.
          </Box>
        )}
        {[...lines].reverse().map((line, index) => (
          <LineRow
            key={line.id}
            show={show}
            look={look}
            line={line}
            effects={effects ?? []}
            place={lines.length - index}
            aside={!line.solo && lines.some((one) => one.solo && !one.mute)}
          />
        ))}
        <Box sx={{ px: 2.5, py: 2, display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
          <Cap>Add a line:</Cap>
          {(effects ?? []).map((effect) => (
            <Chip
              key={effect.name}
              title={effect.says}
              disabled={!show.matrices.length}
              onClick={() => matrix && add(effectLine(effect.name, matrix))}
            >
              {effect.name}
            </Chip>
          ))}
          {show.clips.map((clip) => (
            <Chip
              key={clip.id}
              disabled={!show.matrices.length}
              onClick={() => matrix && add(clipLine(clip.id, matrix))}
            >
              clip {clip.name}
            </Chip>
          ))}
          {uploads.progress !== null && <Cap role="status">uploading {uploads.name}</Cap>}
          {uploads.fault && <FaultNote what={uploads.fault.what} repair={uploads.fault.repair} />}
          {!show.matrices.length && <Cap>There is no matrix to paint on: make one first (key 3).</Cap>}
        </Box>
      </DropZone>
    </>
  );
}

/** "Tower, Windows and Net drops"; beyond three only how many more. */
function listed(names: (string | undefined)[]): string {
  const few = names.length > 4 ? [...names.slice(0, 3), `${names.length - 3} more`] : names;
  const all = few.slice(0, -1).join(", ");
  return all ? `${all} and ${few.at(-1)}` : String(few.at(-1));
}
