import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "../../api/client";
import { useEffects } from "../../api/show";
import type { Line } from "../../model/lines";

export type Parameter = Schemas["EffectParameter"];

/** What a line's kind takes: numbers and choices. */
export function useParameters(line: Line): Parameter[] {
  const { data: effects } = useEffects();
  const { data: recolouring } = useQuery({
    queryKey: ["recolouring"],
    queryFn: async () => (await answer(client.GET("/api/recolouring"))) as Parameter[],
    enabled: line.paints === "recolour",
  });
  if (line.paints === "recolour") return recolouring ?? [];
  if (line.paints !== "effect") return [];
  return effects?.find((one) => one.name === line.effect)?.parameters ?? [];
}
