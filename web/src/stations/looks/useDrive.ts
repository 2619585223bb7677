import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, type Schemas } from "../../api/client";
import type { Line } from "../../model/lines";
import { type DrivenNow, drivenNow } from "../../stores/driven";
import { useLive } from "../../stores/live";

export type Chart = Schemas["DriveChart"];

/** Where a drive stands, so many times a second. */
export function useDrivenNow(line: Line, name: string, perSecond: number): DrivenNow | undefined {
  const [now, setNow] = useState<DrivenNow>();
  useEffect(() => {
    const timer = setInterval(() => setNow(drivenNow(line, name)), 1000 / perSecond);
    return () => clearInterval(timer);
  }, [line, name, perSecond]);
  return now;
}

/** The curve of a drive, as the server draws it; another for each page of what is drawn by chance. */
export function useChart(look: string, line: Line, name: string, page: number): Chart | undefined {
  const drive = line.drives[name];
  const bpm = useLive((live) => (drive?.period.unit === "beat" ? live.engine?.state.bpm : 0));
  const chance = drive?.source === "wave" && (drive.wave === "steps" || drive.wave === "drift");
  const { data } = useQuery({
    queryKey: ["chart", line.id, name, JSON.stringify(drive), bpm, chance ? page : 0],
    queryFn: async () =>
      (await answer(
        client.GET("/api/looks/{look_id}/lines/{line_id}/drives/{name}", {
          params: { path: { look_id: look, line_id: line.id, name }, query: { page } },
        }),
      )) as Chart | null,
    enabled: drive !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 60_000,
  });
  return data ?? undefined;
}
