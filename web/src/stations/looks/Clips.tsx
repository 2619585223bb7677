import { Box, LinearProgress } from "@mui/material";
import { useState } from "react";
import type { WholeShow } from "../../api/client";
import { ACCEPTED } from "../../api/upload";
import { Cap, FaultNote } from "../../components/atoms";
import { FileChooser } from "../../components/FileChooser";
import { Typed } from "../../components/Typed";
import { NO_NUMBER, round, typedNumber } from "../../model/values";
import { ink } from "../../theme/tokens";
import { ClipRow } from "./ClipRow";
import { DropZone } from "./DropZone";
import type { Uploads } from "./useUploads";

interface ClipsProps {
  show: WholeShow;
  uploads: Uploads;
}

/** The clips of the show: videos and pictures, kept by their content. Drop one here, or choose it. */
export function Clips({ show, uploads }: ClipsProps) {
  const { progress, fault, said, name, take, takeFolder } = uploads;
  const [rate, setRate] = useState(25);
  return (
    <DropZone
      onFiles={take}
      sx={{ borderTop: `1px solid ${ink.hair}`, p: 2, pt: 1.5, maxHeight: 330, overflowY: "auto" }}
    >
      <Box sx={{ display: "flex", alignItems: "center", mb: 0.75 }}>
        <b style={{ fontWeight: 600, marginRight: "auto" }}>Clips</b>
        <FileChooser
          label="Video or picture file"
          accept={ACCEPTED}
          multiple
          disabled={progress !== null}
          onFiles={take}
        >
          Upload
        </FileChooser>
      </Box>
      {show.clips.map((clip) => (
        <ClipRow key={clip.id} clip={clip} />
      ))}
      {progress !== null && (
        <Box sx={{ my: 1 }} role="status">
          <LinearProgress variant={progress < 1 ? "determinate" : "indeterminate"} value={progress * 100} />
          <Cap sx={{ mt: 0.5 }}>
            {progress < 1 ? `${name}, ${Math.round(progress * 100)} %` : `looking into ${name}`}
          </Cap>
        </Box>
      )}
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      {said && (
        <Cap role="status" sx={{ mt: 0.5 }}>
          {said}
        </Cap>
      )}
      {progress === null && (
        <Box sx={{ display: "flex", alignItems: "center", gap: 0.25, mt: 0.5 }}>
          <FileChooser
            label="Folder of pictures"
            accept="image/png,image/jpeg,image/webp"
            multiple
            folder
            onFiles={(files) => takeFolder(files, rate)}
          >
            Folder as a clip
          </FileChooser>
          <Typed
            quiet
            numeric
            width={44}
            label="Pictures a second of a folder"
            value={String(round(rate, 2))}
            onCommit={(text) => {
              const typed = typedNumber(text);
              return typed === null ? NO_NUMBER : setRate(typed);
            }}
          />
          <Cap>/s</Cap>
        </Box>
      )}
      {progress === null && (
        <Cap sx={{ mt: 0.5 }}>
          {show.clips.length
            ? "Drop a video or picture on the looks above to begin a look with it, or on a look to add a line."
            : "Drop a video or a picture here."}
        </Cap>
      )}
    </DropZone>
  );
}
