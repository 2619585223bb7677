import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { answer, client, type Fault, type FixtureView, type Schemas, type WholeShow } from "../../api/client";

export interface TrayRun {
  fixture: FixtureView;
  first: number;
  last: number;
}

/** Cells that stand on no square of a matrix; undefined before the server has said. */
export function useTray(show: WholeShow, matrix: string): TrayRun[] | undefined {
  const { data } = useQuery<Schemas["TrayRun"][], Fault>({
    queryKey: ["tray", matrix, show.show.revision],
    queryFn: async () => {
      const path = { matrix_id: matrix };
      return (await answer(
        client.GET("/api/matrices/{matrix_id}/tray", { params: { path } }),
      )) as Schemas["TrayRun"][];
    },
    placeholderData: keepPreviousData,
  });
  return useMemo(() => {
    const known = new Map(show.fixtures.map((one) => [one.id, one]));
    return data?.flatMap(({ fixture: id, first, last }) => {
      const fixture = known.get(id);
      return fixture ? [{ fixture, first, last }] : [];
    });
  }, [data, show.fixtures]);
}
