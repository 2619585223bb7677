import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { answer, client, type Fault, type Schemas, type WholeShow } from "../../api/client";
import { ink } from "../../theme/tokens";

export type Finding = Schemas["FindingView"];

const AGAIN_MS = 3000;
const NOTHING: Finding[] = [];

/** What the patch doctor finds; everybody who asks shares one answer. */
export function useFindings(show: WholeShow | undefined): Finding[] | undefined {
  return useQuery<Finding[], Fault>({
    queryKey: ["doctor", show?.show.revision],
    enabled: show !== undefined,
    queryFn: async () => (await answer(client.GET("/api/patch/doctor"))) as Finding[],
    refetchInterval: AGAIN_MS, // nodes come and go
    placeholderData: (before) => before,
  }).data;
}

/** What is found at each universe: at itself, or at a fixture that lies on it. */
export function useFindingsOn(show: WholeShow | undefined): (universe: number) => Finding[] {
  const data = useFindings(show);
  return useMemo(() => {
    const spans = new Map(show?.fixtures.map((one) => [one.id, one.spans]));
    const found = new Map<number, Finding[]>();
    for (const one of data ?? []) {
      const universes = one.fixture
        ? new Set((spans.get(one.fixture) ?? []).map(([universe]) => universe))
        : new Set(one.universe ? [one.universe] : []);
      for (const universe of universes) found.set(universe, [...(found.get(universe) ?? []), one]);
    }
    return (universe) => found.get(universe) ?? NOTHING;
  }, [data, show?.fixtures]);
}

/** One sign a kind of fault: the same on the ruler and at the doctor. */
const SIGNS: Record<string, string> = {
  overlap: "M2 11 11 2M5 13 13 5M1 7 7 1",
  "past the end": "M2 7h8M8 4l3 3-3 3M13 2v10",
  "not sent": "M2 7h6M10 3v8M12 3v8",
  "nothing there": "M2 7h10M7 2v0M7 12v0",
  "off by one": "M3 11V3M8 11V3M10 8l3-3-3-3",
  "not heard": "M2 4v6h3l4 3V1L5 4zM11 5l3 4M14 5l-3 4",
  "another subnet": "M4 7a3 3 0 1 0 0 .01M10 7a3 3 0 1 0 0 .01",
  "two senders": "M2 2l5 5-5 5M12 2 7 7l5 5",
  "stays dark": "M7 2a5 5 0 1 0 .01 0M4 4l6 6",
  "never dark": "M7 4a3 3 0 1 0 .01 0M7 1v2M7 11v2M1 7h2M11 7h2",
  "seen on a walk": "M2 8c2-5 9-5 11 0-2 5-9 5-11 0M7.5 6a2 2 0 1 0 .01 0",
  "old mode": "M2 3h7l3 4-3 4H2zM5 7h.5",
};

export function FindingSign({ finding, size = 15 }: { finding: Finding; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 15 15" role="img" aria-label={finding.kind}>
      <title>{finding.sentence}</title>
      <path d={SIGNS[finding.kind] ?? "M7 2v7M7 11v1"} stroke={ink.brass} fill="none" strokeWidth="1.4" />
    </svg>
  );
}
