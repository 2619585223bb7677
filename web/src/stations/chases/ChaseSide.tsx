import { Box, Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { answer, client, type LookView, problemOf, type WholeShow } from "../../api/client";
import { download } from "../../api/download";
import { newId } from "../../api/person";
import { sendForm } from "../../api/sendForm";
import { refreshShow, useEdit } from "../../api/show";
import { ACCEPTED } from "../../api/upload";
import { Cap, Num, PaneHead, Part, Scroll } from "../../components/atoms";
import { FileChooser } from "../../components/FileChooser";
import { PictureCanvas } from "../../components/PictureCanvas";
import { useLive, watchFull } from "../../stores/live";
import { notify } from "../../stores/notices";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { chaseLine } from "../looks/newLines";
import type { ChaseEdits } from "./useChaseEdits";
import type { Chase } from "./useFramePicture";

/** Where a line that shows a chase is: the frame, and how long it is still there. */
export interface ChaseNow {
  look: string;
  line: string;
  frame: number;
  left_s: number | null;
}

/** What of the chase is on the wire now. */
export function useChaseNow(chase: string | undefined): ChaseNow[] {
  const running = useLive((live) => live.engine?.state.running);
  return (running ?? []).flatMap((run) =>
    run.chases.filter((one) => one.chase === chase).map((one) => ({ ...one, look: run.look })),
  );
}

interface SideProps {
  show: WholeShow;
  chase: Chase;
  playing: ChaseNow[];
  edits: ChaseEdits;
  /** The frame that is drawn on: what is taken comes behind it. */
  here: number;
  onHere: (frame: number) => void;
}

/** What is sent now, and which looks show the chase. */
export function ChaseSide({ show, chase, playing, edits, here, onHere }: SideProps) {
  const matrix = [...show.matrices, ...show.canvases].find((one) => one.id === chase.canvas);
  const [wrong, setWrong] = useState("");
  const pane = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(280);
  useEffect(() => {
    const watch = new ResizeObserver(() => setWide((pane.current?.clientWidth ?? 312) - 32));
    if (pane.current) watch.observe(pane.current);
    return () => watch.disconnect();
  }, []);
  const id = chase.matrix;
  useEffect(() => (id ? watchFull(id) : undefined), [id]);
  const scale = matrix ? Math.min(wide / matrix.width, 220 / matrix.height) : 1;
  const take = async () => {
    const problem = await edits.frames({ do: "take", after: chase.frames[here]?.id ?? "" });
    setWrong(problem);
    if (!problem) onHere(here + 1);
  };
  /** Each file's frames behind the one that is drawn, in the order of the files. */
  const bring = async (files: File[]) => {
    setWrong("");
    for (const file of [...files].reverse()) {
      const problem = await problemOf(() =>
        sendForm(`/api/chases/${chase.id}/pictures?after=${chase.frames[here]?.id ?? ""}`, { file }),
      );
      if (problem) setWrong(problem);
    }
    await refreshShow();
  };
  return (
    <>
      <PaneHead title="Sent now">
        {playing[0] && (
          <span style={{ color: ink.sea }}>
            ● <Num style={{ fontSize: 18 }}>{playing[0].frame + 1}</Num>
            {playing[0].left_s !== null && (
              <>
                {" "}
                <Num style={{ fontSize: 18 }}>{playing[0].left_s.toFixed(1)}</Num> s
              </>
            )}
          </span>
        )}
      </PaneHead>
      <Scroll ref={pane}>
        <Box sx={{ px: 2, pb: 1.5 }}>
          {matrix && id ? (
            <PictureCanvas
              matrix={id}
              label={`${matrix.name} as sent, large`}
              width={matrix.width * scale}
              height={matrix.height * scale}
              lamps
            />
          ) : (
            <Cap>What it is drawn on is no matrix: what is sent shows at Check.</Cap>
          )}
          <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 1 }}>
            <Cap sx={{ flex: 1 }}>frame {here + 1} is drawn</Cap>
            <Button disabled={!id} onClick={() => void take()}>
              Take as new frame
            </Button>
          </Box>
          {wrong && (
            <Cap role="alert" sx={{ color: ink.brass, mt: 0.5 }}>
              {wrong}
            </Cap>
          )}
        </Box>
        <Users show={show} chase={chase} />
        <Part>
          <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
            <FileChooser label="Picture or GIF for frames" accept={ACCEPTED} multiple onFiles={bring}>
              Frames from files
            </FileChooser>
            <Cap sx={{ flex: 1 }} />
            {(["gif", "csv"] as const).map((kind) => (
              <Button
                key={kind}
                title={kind === "gif" ? "A moving picture of it" : "The colours of all squares as a table"}
                onClick={() =>
                  void download(`/api/chases/${chase.id}/chase.${kind}`, `${chase.name}.${kind}`).catch(
                    notify,
                  )
                }
              >
                {kind.toUpperCase()}
              </Button>
            ))}
          </Box>
        </Part>
      </Scroll>
    </>
  );
}

/** The lines that show it, and a way into another look. */
function Users({ show, chase }: { show: WholeShow; chase: Chase }) {
  const running = useLive((live) => live.engine?.state.running);
  const last = useView((view) => view.look);
  const edit = useEdit();
  const look = show.looks.find((one) => one.id === last) ?? show.looks[0];
  const uses = show.looks.flatMap((one) =>
    one.lines.flatMap((line, n) =>
      line.paints === "chase" && line.chase === chase.id ? [{ look: one, line, place: n + 1 }] : [],
    ),
  );
  const over = chase.matrix
    ? { matrix: chase.matrix }
    : chase.group
      ? { group: chase.group }
      : { selection: chase.selection };
  const use = async () => {
    const line = chaseLine(chase.id, over);
    if (look) {
      const params = { path: { look_id: look.id } };
      if (await edit(() => answer(client.POST("/api/looks/{look_id}/lines", { params, body: line }))))
        go(look, line.id);
      return;
    }
    const body = {
      id: newId(),
      name: chase.name,
      lines: [line],
      folder: "",
      note: "",
      fade_in: 0,
      fade_out: 0,
    };
    if (await edit(() => answer(client.POST("/api/looks", { body }))))
      useView.setState({ look: body.id, line: line.id, chase: null });
  };
  const go = (to: LookView, line: string) => useView.setState({ look: to.id, line, chase: null });
  return (
    <Part>
      <Box sx={{ display: "flex", alignItems: "center", mb: 0.75 }}>
        <b style={{ fontWeight: 600, marginRight: "auto" }}>Looks that use it</b>
        <Button onClick={() => void use()}>{look ? `Use in ${short(look.name)}` : "Use in a look"}</Button>
      </Box>
      {uses.map(({ look: one, line, place }) => {
        const on = running?.some((run) => run.look === one.id) ?? false;
        return (
          <Box
            key={line.id}
            component="button"
            onClick={() => go(one, line.id)}
            sx={{
              display: "flex",
              width: "100%",
              gap: 1,
              py: 0.5,
              px: 0,
              border: 0,
              font: "inherit",
              textAlign: "left",
              color: ink.text,
              background: "none",
              cursor: "pointer",
              "&:hover": { color: ink.brass },
            }}
          >
            <span style={{ color: on && !line.mute ? ink.sea : ink.soft }}>
              {on && !line.mute ? "●" : "○"}
            </span>
            <span style={{ flex: 1 }}>
              {one.name}, line {place}
            </span>
            <Cap>{line.mute ? "muted" : on ? "on" : "off"}</Cap>
          </Box>
        );
      })}
      {!uses.length && <Cap>None yet: drawing is not sent before a look shows it.</Cap>}
    </Part>
  );
}

const short = (name: string): string => (name.length > 16 ? `${name.slice(0, 15)}…` : name);
