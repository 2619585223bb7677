import { Box, Button } from "@mui/material";
import { useState } from "react";
import { answer, type ClipView, client, type Fault, problemOf } from "../../api/client";
import { refreshShow, useEdit } from "../../api/show";
import { Cap, FaultNote, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { NO_NUMBER, round, typedNumber } from "../../model/values";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

/** At most two looks by name: more would push the other clips away. */
function usedBy(looks: string[]): string {
  if (!looks.length) return "not used";
  const more = looks.length > 2 ? ` and ${looks.length - 2} more` : "";
  return `used by ${looks.slice(0, 2).join(", ")}${more}`;
}

/** One clip: a frame of it, its name, how long and how large, what is being done with it. */
export function ClipRow({ clip }: { clip: ClipView }) {
  const edit = useEdit();
  const [refused, setRefused] = useState<Fault | null>(null);
  const media = useLive((live) => live.media);
  const work = media?.clips.filter((one) => one.content === clip.content) ?? [];
  const copying = media?.proxies[clip.content];
  const fault = work.find((one) => one.fault)?.fault;
  const ready = work.length ? Math.min(...work.map((one) => one.ready)) : 1;
  const params = { path: { clip_id: clip.id } };
  return (
    <Box sx={{ py: 0.75, display: "grid", gridTemplateColumns: "52px minmax(0,1fr)", gap: 1.25 }}>
      <div>
        <img
          src={`/api/clips/${clip.id}/thumbnail`}
          alt=""
          width={52}
          height={30}
          style={{ objectFit: "cover", borderRadius: 2, background: ink.lamp, marginTop: 4 }}
        />
        <Typed
          quiet
          numeric
          width={52}
          label={`Number of clip ${clip.name}`}
          value={String(clip.number)}
          onCommit={(text) => {
            const number = typedNumber(text);
            if (number === null) return NO_NUMBER;
            return problemOf(async () => {
              await answer(client.PATCH("/api/clips/{clip_id}", { params, body: { number, rev: clip.rev } }));
              await refreshShow();
            });
          }}
        />
      </div>
      <div>
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
        <Cap>
          {clip.kind === "picture" ? (
            "picture"
          ) : (
            <>
              <Num>{round(clip.duration_s, 1)}</Num> s, <Num>{round(clip.rate, 2)}</Num>/s
            </>
          )}
          , <Num>{`${clip.width}×${clip.height}`}</Num>
        </Cap>
        {fault ? (
          <FaultNote what={fault} />
        ) : ready < 1 ? (
          <Cap role="status">decoding, {Math.floor(ready * 100)} %</Cap>
        ) : copying !== undefined ? (
          <Cap role="status">making a smaller copy, {Math.floor(copying * 100)} %</Cap>
        ) : null}
        <Cap sx={{ display: "flex", alignItems: "flex-start", gap: 1 }}>
          <span>{usedBy(clip.used_by)}</span>
          <Button
            variant="text"
            aria-label={`Delete clip ${clip.name}`}
            sx={{ ml: "auto", px: 0.75, py: 0, color: ink.soft, fontSize: 12 }}
            onClick={() => {
              setRefused(null);
              void edit(() => answer(client.DELETE("/api/clips/{clip_id}", { params })), setRefused);
            }}
          >
            Delete
          </Button>
        </Cap>
        {refused && <FaultNote what={refused.what} repair={refused.repair} />}
      </div>
    </Box>
  );
}
