import { Box } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { answer, client, type LookView, type Schemas } from "../../api/client";
import { Cap } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import type { Line } from "../../model/lines";

interface EmitterProps {
  look: LookView;
  line: Line;
  onChoose: (emitter: string) => unknown;
}

const ALL = "its colour, by all of them";

/** Whether a line writes its colour, or its brightness to one emitter of the lamps beneath it and nothing else. */
export function EmitterOver({ look, line, onChoose }: EmitterProps) {
  const { data } = useQuery({
    queryKey: ["emitters", look.id, line.id, line.canvas],
    queryFn: async () =>
      (await answer(
        client.GET("/api/looks/{look_id}/lines/{line_id}/emitters", {
          params: { path: { look_id: look.id, line_id: line.id } },
        }),
      )) as Schemas["Emitters"],
    retry: false,
  });
  const words = data?.words ?? [];
  const gone = line.emitter && !words.includes(line.emitter) ? [line.emitter] : [];
  if (words.length + gone.length === 0 && !data?.plain) return null;
  return (
    <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", mt: 1, flexWrap: "wrap" }}>
      {data?.plain && <Cap sx={{ width: "100%" }}>{data.plain}</Cap>}
      <Cap>onto</Cap>
      <Choices
        names={[["", ALL], ...[...words, ...gone].map((word) => [word, `${word} alone`] as const)]}
        chosen={line.emitter ?? ""}
        onChoose={onChoose}
      />
    </Box>
  );
}
