import { Box, Button } from "@mui/material";
import { memo, useRef } from "react";
import { download } from "../../api/download";
import { Cap, Num } from "../../components/atoms";
import { FileChooser } from "../../components/FileChooser";
import { Typed } from "../../components/Typed";
import { notify } from "../../stores/notices";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import type { CueEdits, CueList, Playing } from "./useCueList";

interface HeadProps {
  list: CueList;
  edits: CueEdits;
  playing: Playing | undefined;
  onWrong: (what: string) => void;
}

/** Over the table: which list, where in it, and what makes cues. */
export const ListHead = memo(function ListHead({ list, edits, playing, onWrong }: HeadProps) {
  const chosen = useView((view) => view.cues);
  const after = chosen.at(-1) ?? playing?.cue ?? "";
  const busy = useRef(false);
  const add = async (take: boolean) => {
    if (busy.current) return;
    busy.current = true;
    onWrong(await edits.add(take, list.cues.some((one) => one.id === after) ? after : ""));
    busy.current = false;
  };
  const read = async (files: File[]) => {
    const [file] = files;
    if (file) onWrong(await edits.table(await file.text()));
  };
  return (
    <Box
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        px: 2,
        py: 0.75,
        borderTop: `1px solid ${ink.hair}`,
        flexWrap: "wrap",
      }}
    >
      <Box sx={{ width: 180, ml: -0.75, "& input": { fontWeight: 600 } }}>
        <Typed quiet label="Name of the list" value={list.name} onCommit={(name) => edits.change({ name })} />
      </Box>
      <Cap sx={{ mr: "auto" }}>
        <Num>{list.cues.length}</Num> {list.cues.length === 1 ? "cue" : "cues"}
      </Cap>
      <Button title="A cue of all looks that run now, at their levels" onClick={() => void add(true)}>
        Take what runs
      </Button>
      <Button onClick={() => void add(false)}>New cue</Button>
      <Button
        variant="text"
        title="The cues as a table"
        onClick={() => void download(`/api/lists/${list.id}/cues.csv`, `${list.name}.csv`).catch(notify)}
      >
        CSV
      </Button>
      <FileChooser label="Table of cues, CSV" accept=".csv,text/csv" onFiles={read}>
        From CSV
      </FileChooser>
    </Box>
  );
});
