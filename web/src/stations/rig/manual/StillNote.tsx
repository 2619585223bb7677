import { useQuery } from "@tanstack/react-query";
import { answer, client, type FixtureView } from "../../../api/client";
import { FaultNote } from "../../../components/atoms";

const EVERY_MS = 1_500;

/** Why nothing shows of an animation that what is chosen makes itself. */
export function StillNote({ chosen }: { chosen: FixtureView[] }) {
  const fixtures = chosen.map((one) => one.id);
  const { data } = useQuery({
    queryKey: ["why still", fixtures.join()],
    queryFn: () => answer(client.POST("/api/why-still", { body: { fixtures } })),
    refetchInterval: (query) =>
      query.state.data?.said === null || query.state.status === "error" ? false : EVERY_MS,
    retry: false,
    gcTime: 5_000,
  });
  return data?.said ? <FaultNote what={data.said} /> : null;
}
