import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { answer, client, type Fault, type Schemas } from "../../api/client";

type Levels = Schemas["Levels"];

/** What a universe sends to, and who owns each of its channels; everybody who asks shares one answer. */
export function useOwners(universe: number) {
  const { data, error } = useQuery<Levels, Fault>({
    queryKey: ["levels", universe],
    queryFn: () => fetchLevels(universe),
    retry: 10,
  });
  const owners = useMemo(() => {
    const found = new Map<number, Levels["owners"]>();
    for (const owner of data?.owners ?? [])
      found.set(owner.channel, [...(found.get(owner.channel) ?? []), owner]);
    return found;
  }, [data]);
  return { data, error, owners };
}

const fetchLevels = (universe: number) =>
  answer(client.GET("/api/levels/{universe}", { params: { path: { universe } } })) as Promise<Levels>;
