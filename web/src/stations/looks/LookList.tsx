import { Box, Button } from "@mui/material";
import { Fragment, memo, useState } from "react";
import { answer, client, type LookView, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, ListCard, OneLine, PaneHead, Scroll } from "../../components/atoms";
import { Field } from "../../components/Field";
import { PreviewCanvas } from "../../components/PreviewCanvas";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { ChaseList } from "../chases/ChaseList";
import { Clips } from "./Clips";
import { DropZone } from "./DropZone";
import { clipLine } from "./newLines";
import { useUploads } from "./useUploads";

const PLAIN = { folder: "", note: "", fade_in: 0, fade_out: 0 };

/** From so many looks on one looks for them by typing. */
const MANY = 8;

/** Looks whose name, folder or note holds all words, by folder: those without one first. */
function inFolders(looks: LookView[], text: string): [string, LookView[]][] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = looks.filter((look) =>
    words.every((word) => `${look.name} ${look.folder} ${look.note}`.toLowerCase().includes(word)),
  );
  const folders = [...new Set(found.map((look) => look.folder))].sort((a, b) => a.localeCompare(b));
  return folders.map((folder) => [folder, found.filter((look) => look.folder === folder)]);
}

interface ListProps {
  show: WholeShow;
  chosen: string | undefined;
  /** The chase that is drawn, where one is. */
  chase: string | undefined;
}

/** All looks with a miniature each, which of them are on; below them the clips. */
export const LookList = memo(function LookList({ show, chosen, chase }: ListProps) {
  const running = useLive((live) => live.engine?.state.running);
  const uploads = useUploads();
  const edit = useEdit();
  const [text, setText] = useState("");
  const add = async (name: string, lines: ReturnType<typeof clipLine>[]) => {
    const id = newId();
    if (await edit(() => answer(client.POST("/api/looks", { body: { id, name, lines, ...PLAIN } }))))
      useView.setState({ look: id, line: lines[0]?.id ?? null, chase: null });
  };
  const begin = async (files: File[]) => {
    const [first] = files;
    const [clip] = await uploads.take(files);
    const matrix = show.matrices[0]?.id;
    if (first && clip && matrix)
      await add(first.name.replace(/\.[^.]+$/, "") || "Clip", [clipLine(clip, { matrix })]);
  };
  return (
    <>
      <DropZone onFiles={begin} sx={{ display: "flex", flexDirection: "column", flex: 1, minHeight: 120 }}>
        <PaneHead title="Looks">
          <Button onClick={() => add(`Look ${show.looks.length + 1}`, [])}>New</Button>
        </PaneHead>
        {show.looks.length >= MANY && (
          <Box sx={{ px: 2, pb: 1 }}>
            <Field width="100%" label="Find a look" placeholder="find" value={text} onChange={setText} />
          </Box>
        )}
        <Scroll>
          {inFolders(show.looks, text).map(([folder, looks]) => (
            <Fragment key={folder}>
              {folder && (
                <Cap as="h3" sx={{ m: 0, px: 2, pt: 1.25, pb: 0.5, fontWeight: 600 }}>
                  {folder}
                </Cap>
              )}
              {looks.map((look) => (
                <LookItem
                  key={look.id}
                  look={look}
                  on={running?.some((run) => run.look === look.id) ?? false}
                  here={look.id === chosen}
                />
              ))}
            </Fragment>
          ))}
          {show.looks.length > 0 && !inFolders(show.looks, text).length && (
            <Cap sx={{ px: 2 }}>No look answers to '{text}'.</Cap>
          )}
          {!show.looks.length && (
            <Cap sx={{ px: 2 }}>
              {show.matrices.length
                ? "Drop a video or picture here to begin a look with it."
                : "Looks stand here once there is a matrix to paint (key 3)."}
            </Cap>
          )}
        </Scroll>
      </DropZone>
      <ChaseList show={show} chosen={chase} />
      <Clips show={show} uploads={uploads} />
    </>
  );
});

function LookItem({ look, on, here }: { look: LookView; on: boolean; here: boolean }) {
  return (
    <ListCard
      picture={64}
      here={here}
      aria-pressed={here}
      data-look={look.name}
      title={look.name}
      onClick={() => useView.setState({ look: look.id, line: null, chase: null })}
    >
      <PreviewCanvas kind="look" id={look.id} label="" width={64} height={26} smooth />
      <Box component="span" sx={{ minWidth: 0 }}>
        <OneLine>{look.name}</OneLine>
        <Cap sx={{ color: on ? ink.sea : ink.soft }}>
          {on ? "● on" : "○ off"}, {look.lines.length === 1 ? "1 line" : `${look.lines.length} lines`}
        </Cap>
      </Box>
    </ListCard>
  );
}
