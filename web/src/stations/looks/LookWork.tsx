import { Box, Button } from "@mui/material";
import { memo, useState } from "react";
import { answer, client, type LookView, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit, useEffects } from "../../api/show";
import { Cap, KeyCap } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { useSure } from "../../components/useSure";
import { canvasesOf, isOver, type Over, overOf } from "../../model/canvases";
import { act } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { DropZone } from "./DropZone";
import { FlashNote } from "./FlashNote";
import { LineAdder } from "./LineAdder";
import { LineRow } from "./LineRow";
import { LookSettings } from "./LookSettings";
import { clipLine } from "./newLines";
import { Unroll } from "./Unroll";
import { useAddLine } from "./useAddLine";
import { useUploads } from "./useUploads";

/** One look: its name, whether it is on, its lines from the top of the stack down. */
export const LookWork = memo(function LookWork({ show, look }: { show: WholeShow; look: LookView }) {
  const edit = useEdit();
  const { data: effects } = useEffects();
  const on =
    useLive((live) =>
      live.engine?.state.running.some((run) => run.look === look.id && !run.of && !run.ends),
    ) ?? false;
  const blind = useLive((live) => live.engine?.state.blind.includes(look.id)) ?? false;
  const known = useLive((live) => live.engine !== null);
  const lines = look.lines;
  const names = canvasesOf(show, lines).map((one) => one.name);
  const params = { path: { look_id: look.id } };

  const [unrolling, setUnrolling] = useState(false);
  const uploads = useUploads();
  const chosen = useView((view) => view.line);
  const last = lines.find((line) => line.id === chosen) ?? lines[0];
  const over: Over = (last && overOf(last)) ?? { matrix: show.matrices[0]?.id ?? "" };
  const add = useAddLine(look);
  const drop = async (files: File[]) => {
    for (const clip of await uploads.take(files)) if (isOver(over)) await add(clipLine(clip, over));
  };
  const sure = useSure("Delete it");
  const duplicate = async () => {
    const id = newId();
    if (await edit(() => answer(client.POST("/api/looks/{look_id}/copy", { params, body: { id } }))))
      useView.setState({ look: id, line: null });
  };
  const remove = async () => {
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
          <FlashNote look={look} />
          <Cap sx={{ pl: 0.75 }}>{names.length ? `paints ${listed(names)}` : "paints nothing yet"}</Cap>
        </Box>
        {/* Comes and goes while a look runs: first in the row, so that nothing else moves under a pointer. */}
        {on && (
          <Button
            variant={blind ? "contained" : "text"}
            color={blind ? "primary" : "inherit"}
            aria-pressed={blind}
            title={
              blind
                ? "What you changed since is not sent yet. Press to send it."
                : "Edit it unseen: what is sent stays as it is until you send the changes"
            }
            sx={blind ? {} : { color: ink.soft }}
            onClick={() => act(`look/${look.id}/blind`, !blind)}
          >
            {blind ? "Send the changes" : "Blind"}
          </Button>
        )}
        <Button variant="text" sx={{ color: ink.soft }} title="A copy of this look, off" onClick={duplicate}>
          Duplicate
        </Button>
        <Button
          variant="text"
          sx={{ color: unrolling ? ink.brass : ink.soft }}
          disabled={!lines.length}
          aria-expanded={unrolling}
          title="Makes frames of all of it, as a chase beside it"
          onClick={() => setUnrolling(!unrolling)}
        >
          Unroll
        </Button>
        <Button
          variant="text"
          sx={{ color: ink.soft }}
          onClick={(event) => void sure.ask(event.currentTarget, "look", look.id, remove)}
        >
          Delete
        </Button>
        {sure.panel}
        <Button
          variant={on ? "contained" : "outlined"}
          color="primary"
          aria-pressed={on}
          disabled={!known}
          sx={{ minWidth: 104 }}
          onClick={() => act(`look/${look.id}/on`, !on)}
        >
          {on ? "On" : "Off"} <KeyCap sx={{ color: "inherit", borderColor: "currentcolor" }}>Space</KeyCap>
        </Button>
      </Box>
      {unrolling && (
        <Box sx={{ px: 2, borderBottom: `1px solid ${ink.hair}` }}>
          <Unroll look={look} onClose={() => setUnrolling(false)} />
        </Box>
      )}
      <LookSettings look={look} />
      <DropZone onFiles={drop} sx={{ overflowY: "auto", minHeight: 0, flex: lines.length ? 1 : "none" }}>
        {lines.length === 0 && (
          <Box sx={{ px: 2.5, py: 1.5, color: ink.soft }}>
            This look has no lines yet. Take an effect below, or drop a video here; the top line covers those
            beneath.
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
          />
        ))}
      </DropZone>
      <LineAdder show={show} look={look} effects={effects ?? []} over={over} uploads={uploads} />
    </>
  );
});

/** "Tower, Windows and Net drops"; beyond three only how many more. */
function listed(names: (string | undefined)[]): string {
  const few = names.length > 4 ? [...names.slice(0, 3), `${names.length - 3} more`] : names;
  const all = few.slice(0, -1).join(", ");
  return all ? `${all} and ${few.at(-1)}` : String(few.at(-1));
}
