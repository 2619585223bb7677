import { Box, Button } from "@mui/material";
import { answer, client, type LookView, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, PaneHead, Scroll } from "../../components/atoms";
import { PreviewCanvas } from "../../components/PreviewCanvas";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { Clips } from "./Clips";
import { DropZone } from "./DropZone";
import { clipLine } from "./newLines";
import { useUploads } from "./useUploads";

/** All looks with a miniature each, which of them are on; below them the clips. */
export function LookList({ show, chosen }: { show: WholeShow; chosen: string | undefined }) {
  const running = useLive((live) => live.engine?.state.running);
  const uploads = useUploads();
  const edit = useEdit();
  const add = async (name: string, lines: ReturnType<typeof clipLine>[]) => {
    const id = newId();
    if (await edit(() => answer(client.POST("/api/looks", { body: { id, name, lines } }))))
      useView.setState({ look: id, line: lines[0]?.id ?? null });
  };
  const begin = async (files: File[]) => {
    const [first] = files;
    const [clip] = await uploads.take(files);
    const matrix = show.matrices[0]?.id;
    if (first && clip && matrix)
      await add(first.name.replace(/\.[^.]+$/, "") || "Clip", [clipLine(clip, matrix)]);
  };
  return (
    <>
      <DropZone onFiles={begin} sx={{ display: "flex", flexDirection: "column", flex: 1, minHeight: 120 }}>
        <PaneHead title="Looks">
          <Button onClick={() => add(`Look ${show.looks.length + 1}`, [])}>New</Button>
        </PaneHead>
        <Scroll>
          {show.looks.map((look) => (
            <LookItem
              key={look.id}
              look={look}
              on={running?.some((run) => run.look === look.id) ?? false}
              here={look.id === chosen}
            />
          ))}
          {!show.looks.length && (
            <Cap sx={{ px: 2 }}>
              {show.matrices.length
                ? "Drop a video or picture here to begin a look with it."
                : "Looks stand here once there is a matrix to paint (key 3)."}
            </Cap>
          )}
        </Scroll>
      </DropZone>
      <Clips show={show} uploads={uploads} />
    </>
  );
}

function LookItem({ look, on, here }: { look: LookView; on: boolean; here: boolean }) {
  return (
    <Box
      component="button"
      aria-pressed={here}
      aria-label={`${look.name}, ${on ? "on" : "off"}`}
      title={look.name}
      onClick={() => useView.setState({ look: look.id, line: null })}
      sx={{
        display: "grid",
        gridTemplateColumns: "64px 1fr",
        gap: 1.25,
        alignItems: "center",
        width: "100%",
        textAlign: "left",
        font: "inherit",
        color: "inherit",
        background: here ? ink.brassGround : "none",
        border: 0,
        borderLeft: `3px solid ${here ? ink.brass : "transparent"}`,
        pl: 1.75,
        pr: 1,
        py: 0.9,
        cursor: "pointer",
        "&:hover": { background: here ? ink.brassGround : ink.row },
      }}
    >
      <PreviewCanvas kind="look" id={look.id} label="" width={64} height={26} smooth />
      <Box component="span" sx={{ minWidth: 0 }}>
        <Box
          component="span"
          sx={{ display: "block", overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
        >
          {look.name}
        </Box>
        <Cap sx={{ color: on ? ink.sea : ink.soft }}>
          {on ? "● on" : "○ off"}, {look.lines.length === 1 ? "1 line" : `${look.lines.length} lines`}
        </Cap>
      </Box>
    </Box>
  );
}
