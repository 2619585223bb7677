import { useQuery } from "@tanstack/react-query";
import { answer, client, type Fault, type Schemas, type WholeShow } from "../../api/client";

type Reach = Schemas["ReachView"];

const AGAIN_MS = 3000;

/** Whom the outputs reach, as the server worked it out; nodes come and go. */
export function useReach(show: WholeShow): Reach | undefined {
  const { data } = useQuery<Reach, Fault>({
    queryKey: ["reach", show.show.revision],
    queryFn: async () => (await answer(client.GET("/api/patch/reach"))) as Reach,
    refetchInterval: AGAIN_MS,
    placeholderData: (before) => before,
  });
  return data;
}

/** The nodes heard, each with the universes that come to its ports, port by port. */
export function portsOf(reach: Reach | undefined): { name: string; universes: number[] }[] {
  const found = new Map<string, { name: string; universes: number[] }>();
  for (const port of reach?.ports ?? []) {
    const entry = found.get(port.ip) ?? { name: port.name || port.ip, universes: [] };
    for (const universe of port.universes)
      if (!entry.universes.includes(universe)) entry.universes.push(universe);
    found.set(port.ip, entry);
  }
  return [...found.values()].filter((entry) => entry.universes.length);
}
