import { Box } from "@mui/material";
import { useEffect, useState } from "react";
import type { LookView, WholeShow } from "../../api/client";
import { Cap, PaneHead, Scroll } from "../../components/atoms";
import { PictureCanvas } from "../../components/PictureCanvas";
import type { Layer } from "../../model/layers";
import { useLive, watchFull } from "../../stores/live";
import { pictures } from "../../stores/pictures";
import { ink } from "../../theme/tokens";

/** What was sent to the matrices this look paints, and why it is dark where it is. */
export function SentPane({ show, look }: { show: WholeShow; look: LookView }) {
  const layers = look.layers as unknown as Layer[];
  const matrices = show.matrices.filter((m) => layers.some((layer) => layer.matrix === m.id));
  const state = useLive((live) => live.engine?.state);
  const on = state?.running.some((run) => run.look === look.id);
  const why = !state
    ? "The engine does not answer this page."
    : state.blackout
      ? "Blackout is on: all light is held at zero."
      : state.master === 0
        ? "The grand master stands at zero."
        : !on
          ? "This look is off; the picture shows what else is sent."
          : state.freeze
            ? "Frozen: the last frame goes on being sent."
            : "";
  return (
    <>
      <PaneHead title="Sent">
        <Cap>decoded from the bytes on the wire</Cap>
      </PaneHead>
      <Scroll>
        {why && <Cap sx={{ px: 2, pb: 1, color: ink.brass, fontSize: 13 }}>{why}</Cap>}
        {matrices.map((matrix) => (
          <SentMatrix
            key={matrix.id}
            id={matrix.id}
            name={matrix.name}
            width={matrix.width}
            height={matrix.height}
          />
        ))}
        {matrices.length === 0 && <Cap sx={{ px: 2 }}>The matrices this look paints show here.</Cap>}
      </Scroll>
    </>
  );
}

function SentMatrix({
  id,
  name,
  width,
  height,
}: {
  id: string;
  name: string;
  width: number;
  height: number;
}) {
  useEffect(() => watchFull(id), [id]);
  const [state, setState] = useState<string>("sent");
  useEffect(() => {
    const timer = setInterval(() => setState(pictures.get(id)?.state ?? "not sent"), 400);
    return () => clearInterval(timer);
  }, [id]);
  const scale = Math.min(322 / width, 470 / height);
  return (
    <Box sx={{ px: 2, pb: 2 }}>
      <Box sx={{ display: "flex", justifyContent: "space-between", mb: 0.75 }}>
        <b style={{ fontWeight: 600, fontSize: 13 }}>{name}</b>
        <Cap>
          {width} × {height}
        </Cap>
      </Box>
      <PictureCanvas
        matrix={id}
        label={`${name} as sent, large`}
        width={Math.max(8, width * scale)}
        height={Math.max(6, height * scale)}
      />
      {state !== "sent" && (
        <Cap sx={{ mt: 0.75, color: ink.brass }}>
          {state === "partly" ? "Some of its universes are not sent" : "None of its universes is sent"}: see
          the outputs at Patch (key 2).
        </Cap>
      )}
    </Box>
  );
}
