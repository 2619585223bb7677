import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answer, client, type LookView, type Schemas } from "../../../api/client";
import type { AttributeLine } from "../../../model/lines";

export type AttributeWord = Schemas["AttributeWord"];

/** What can be set of the fixtures a line is over, as the server says. */
export function useAttributes(look: LookView, line: AttributeLine): Schemas["Attributes"] {
  const { data } = useQuery({
    queryKey: ["attributes", line.id, line.canvas, JSON.stringify(line.params), look.rev],
    queryFn: async () =>
      (await answer(
        client.GET("/api/looks/{look_id}/lines/{line_id}/attributes", {
          params: { path: { look_id: look.id, line_id: line.id } },
        }),
      )) as Schemas["Attributes"],
    placeholderData: keepPreviousData,
    refetchInterval: 2_000,
    retry: false,
    gcTime: 60_000,
  });
  return data ?? { attributes: [], missing: {}, said: "" };
}

export const usePaths = (): Schemas["PathView"][] =>
  useQuery({
    queryKey: ["paths"],
    queryFn: async () => (await answer(client.GET("/api/paths"))) as Schemas["PathView"][],
    staleTime: Number.POSITIVE_INFINITY,
  }).data ?? [];
