import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { answer, client, type Fault, type Schemas } from "../../api/client";
import { useBack } from "../../stores/back";

const AGAIN_MS = 400;

/** Channels of a universe that somebody writes over what looks make, by who, as why calls it. */
export function useMarks(universe: number): Map<number, string> {
  const frame = useBack((back) => back.moment?.frame ?? null);
  const { data: told, isError } = useQuery<Schemas["Marks"], Fault>({
    queryKey: ["marks", universe, frame],
    queryFn: () => fetchMarks(universe, frame),
    refetchInterval: frame === null ? AGAIN_MS : false,
    retry: false,
  });
  const data = isError ? undefined : told; // marks of before say nothing of what nobody can be asked about
  return useMemo(() => {
    const found = new Map<number, string>();
    for (const [kind, channels] of Object.entries(data?.channels ?? {}))
      for (const channel of channels) found.set(channel, kind);
    return found;
  }, [data]);
}

const fetchMarks = (universe: number, frame: number | null) => {
  const params = { path: { universe }, query: frame === null ? {} : { frame } };
  return answer(client.GET("/api/levels/{universe}/marks", { params })) as Promise<Schemas["Marks"]>;
};
