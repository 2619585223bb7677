import { Box, Button, LinearProgress } from "@mui/material";
import { useRef, useState } from "react";
import { answer, type ClipView, client, type Fault, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow, useEdit } from "../../api/show";
import { uploadClip } from "../../api/upload";
import { Cap, FaultNote, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { round } from "../../model/values";
import { ink } from "../../theme/tokens";

/** The clips of the show; drop a video here, or choose one. */
export function Clips({ show }: { show: WholeShow }) {
  const [progress, setProgress] = useState<number | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const [over, setOver] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);

  const take = async (file: File | undefined) => {
    if (!file) return;
    setFault(null);
    setProgress(0);
    const problem = await uploadClip(newId(), file, setProgress);
    setProgress(null);
    setFault(problem);
    await refreshShow();
  };

  return (
    <Box
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void take(event.dataTransfer.files[0]);
      }}
      sx={{
        borderTop: `1px solid ${over ? ink.brass : ink.hair}`,
        background: over ? ink.brassGround : "none",
        p: 2,
        maxHeight: 300,
        overflowY: "auto",
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", mb: 0.5 }}>
        <b style={{ fontWeight: 600 }}>Clips</b>
        <Button sx={{ ml: "auto" }} onClick={() => chooser.current?.click()} disabled={progress !== null}>
          Upload
        </Button>
        <input
          ref={chooser}
          type="file"
          accept="video/mp4,video/quicktime,.mp4,.m4v,.mov"
          aria-label="Video file"
          hidden
          onChange={(event) => {
            void take(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
      </Box>
      {show.clips.map((clip) => (
        <ClipRow key={clip.id} clip={clip} />
      ))}
      {progress !== null && (
        <Box sx={{ my: 1 }} role="status">
          <LinearProgress variant="determinate" value={progress * 100} />
          <Cap sx={{ mt: 0.5 }}>
            {progress < 1 ? `uploading, ${Math.round(progress * 100)} %` : "looking into it"}
          </Cap>
        </Box>
      )}
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      {!show.clips.length && progress === null && (
        <Cap>Drop a video here. It loops on the matrix it is placed on.</Cap>
      )}
    </Box>
  );
}

function ClipRow({ clip }: { clip: ClipView }) {
  const edit = useEdit();
  const params = { path: { clip_id: clip.id } };
  return (
    <Box sx={{ py: 0.5 }}>
      <Box sx={{ ml: -0.75 }}>
        <Typed
          quiet
          label={`Name of clip ${clip.name}`}
          value={clip.name}
          onCommit={(name) =>
            edit(() =>
              answer(client.PATCH("/api/clips/{clip_id}", { params, body: { name, rev: clip.rev } })),
            )
          }
        />
      </Box>
      <Cap sx={{ display: "flex", alignItems: "center" }}>
        <span>
          <Num>{round(clip.duration_s, 1)}</Num> s, {clip.width} × {clip.height}
        </span>
        {!clip.used_by.length && (
          <Button
            variant="text"
            aria-label={`Delete clip ${clip.name}`}
            sx={{ ml: "auto", py: 0, color: ink.soft }}
            onClick={() => edit(() => answer(client.DELETE("/api/clips/{clip_id}", { params })))}
          >
            Delete
          </Button>
        )}
      </Cap>
    </Box>
  );
}
