import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { answer, client, problemOf, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow, useEdit } from "../../api/show";

export type Rule = WholeShow["clocks"][number]["rules"][number];
export type Week = Schemas["Week"];

const LOOK_MS = 2_000;

/** The next seven days, by the time that the clock has. Asked again and again; at once where rules changed. */
export function useWeek(revision: number) {
  return useQuery({
    queryKey: ["week", revision],
    queryFn: async () => (await answer(client.GET("/api/clock/week"))) as Week,
    refetchInterval: LOOK_MS,
    placeholderData: (before) => before,
  });
}

/** Everything that can be done to the clock; each is one edit, undone by itself. */
export function useClockEdits() {
  const edit = useEdit();
  return useMemo(() => {
    const said = async (run: () => Promise<unknown>): Promise<string> => {
      const problem = await problemOf(run);
      await refreshShow();
      return problem;
    };
    const rule = (id: string) => ({ path: { rule_id: id } });
    return {
      set: (body: Schemas["ClockPatch"]) => said(() => answer(client.PATCH("/api/clock", { body }))),
      add: (when: string, does: string) =>
        said(() => answer(client.POST("/api/clock/rules", { body: { id: newId(), when, does, name: "" } }))),
      change: (id: string, body: Schemas["RulePatch"]) =>
        said(() => answer(client.PATCH("/api/clock/rules/{rule_id}", { params: rule(id), body }))),
      drop: (id: string) =>
        edit(() => answer(client.DELETE("/api/clock/rules/{rule_id}", { params: rule(id) }))),
      attempt: (id: string) =>
        problemOf(() => answer(client.POST("/api/clock/rules/{rule_id}/try", { params: rule(id) }))),
    };
  }, [edit]);
}

export type ClockEdits = ReturnType<typeof useClockEdits>;

/** What happens when the machine is switched on, of this machine and not of the show. */
export function useStartOfDay() {
  const found = useQuery({
    queryKey: ["start of day"],
    queryFn: async () => (await answer(client.GET("/api/start-of-day"))) as Schemas["StartOfDay"],
  });
  return {
    chosen: found.data,
    choose: async (body: Schemas["StartOfDay"]): Promise<string> => {
      const problem = await problemOf(() => answer(client.PUT("/api/start-of-day", { body })));
      await found.refetch();
      return problem;
    },
  };
}
