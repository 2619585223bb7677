import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type LookView, problemOf, type Schemas } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow } from "../../api/show";
import { Cap, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { NO_NUMBER, round, typedNumber } from "../../model/values";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";

interface UnrollProps {
  look: LookView;
  /** The line, or all of the look. */
  line?: string;
  onClose: () => void;
}

/** Makes frames of a line, or of a look, over one cycle: as many as it has itself, or as are typed. */
export function Unroll({ look, line = "", onClose }: UnrollProps) {
  const { data: offer, error } = useQuery({
    queryKey: ["unroll", look.id, look.rev, line],
    queryFn: async () =>
      (await answer(
        client.GET("/api/chases/unroll/{look_id}", {
          params: { path: { look_id: look.id }, query: { line } },
        }),
      )) as Schemas["UnrollOffer"],
    retry: false,
  });
  const [count, setCount] = useState<number | null>(null);
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const frames = count ?? offer?.count;
  const run = async () => {
    const id = newId();
    setBusy(true);
    const problem = await problemOf(() =>
      answer(
        client.POST("/api/chases/unroll", {
          body: { id, look: look.id, line: line || null, count: frames ?? null },
        }),
      ),
    );
    await refreshShow();
    setBusy(false);
    setWrong(problem);
    if (!problem) {
      onClose();
      useView.setState({ chase: id });
    }
  };
  return (
    <Box
      role="group"
      aria-label="Unroll"
      onKeyDown={(event: React.KeyboardEvent) => event.key === "Escape" && onClose()}
      sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap", py: 0.5, color: ink.soft }}
    >
      {offer && frames ? (
        <>
          <Cap>into</Cap>
          <Typed
            numeric
            width={60}
            label="How many frames"
            value={String(frames)}
            onCommit={(text) => {
              const typed = typedNumber(text);
              if (typed === null) return NO_NUMBER;
              setCount(typed);
            }}
          />
          <Cap>
            {count === null && offer.own ? "frames, its own number" : "frames"}
            {!line && ` on ${offer.over}`}, over <Num>{round(offer.length, 3)}</Num>{" "}
            {offer.unit === "s" ? "s" : "beats"}
            {line ? "; the line stays, muted" : "; the look stays as it is"}
          </Cap>
          <Button disabled={busy} onClick={() => void run()}>
            {busy ? "Unrolling" : "Unroll"}
          </Button>
        </>
      ) : (
        <Cap role="status">{error ? error.message : "Counting its frames"}</Cap>
      )}
      {wrong && (
        <Cap role="alert" sx={{ color: ink.brass }}>
          {wrong}
        </Cap>
      )}
    </Box>
  );
}
