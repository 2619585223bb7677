import { useQuery } from "@tanstack/react-query";
import { answer, client, type PlanData, type Schemas, type WholeShow } from "../../../api/client";

export type Motion = Schemas["Motion"];

const EVERY_MS = 1_000;

/** Where the heads on a plan point and go as they are sent; nothing is asked where there is none. */
export function useMotion(show: WholeShow, plan: PlanData | undefined): Motion | undefined {
  const placed = new Set(plan?.items.map((one) => one.id));
  const turning = new Set(show.profiles.filter((one) => one.kind === "head").map((one) => one.id));
  const heads = show.fixtures.some((one) => placed.has(one.id) && turning.has(one.profile));
  const { data } = useQuery({
    queryKey: ["motion"],
    queryFn: async () => (await answer(client.GET("/api/motion"))) as Motion,
    enabled: heads,
    refetchInterval: EVERY_MS,
    retry: false,
    gcTime: 5_000,
  });
  return heads ? data : undefined;
}
