import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Fault, type Schemas, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, PaneHead } from "../../components/atoms";
import { chooseFixtures } from "../../stores/view";
import { ink } from "../../theme/tokens";

type Finding = Schemas["FindingView"];

const AGAIN_MS = 3000;

/** What will go wrong with the patch: each finding a sentence, with its repair where there is one. */
export function Doctor({ show }: { show: WholeShow }) {
  const { data } = useQuery<Finding[], Fault>({
    queryKey: ["doctor", show.show.revision],
    queryFn: async () => (await answer(client.GET("/api/patch/doctor"))) as Finding[],
    refetchInterval: AGAIN_MS, // nodes come and go
    placeholderData: (before) => before,
  });
  const findings = data ?? [];
  return (
    <Box sx={{ borderBottom: `1px solid ${ink.hair}`, pb: 1 }}>
      <PaneHead title="Patch doctor">
        <Cap sx={{ color: findings.length ? ink.brass : ink.sea }}>
          {!data
            ? "looking"
            : findings.length
              ? `${findings.length} ${findings.length === 1 ? "finding" : "findings"}`
              : "nothing found"}
        </Cap>
      </PaneHead>
      {findings.slice(0, 30).map((finding) => (
        <FindingRow key={finding.sentence} finding={finding} />
      ))}
      {data && !findings.length && (
        <Cap sx={{ px: 2 }}>
          Every fixture lies whole and alone, every universe with fixtures is sent, every number meets a node
          that listens to it.
        </Cap>
      )}
    </Box>
  );
}

/** One sign a kind of fault: the same on the ruler, at the node and here. */
const SIGNS: Record<string, string> = {
  overlap: "M2 11 11 2M5 13 13 5M1 7 7 1",
  "past the end": "M2 7h8M8 4l3 3-3 3M13 2v10",
  "not sent": "M2 7h6M10 3v8M12 3v8",
  "nothing there": "M2 7h10M7 2v0M7 12v0",
  "off by one": "M3 11V3M8 11V3M10 8l3-3-3-3",
  "another subnet": "M4 7a3 3 0 1 0 0 .01M10 7a3 3 0 1 0 0 .01",
  "two senders": "M2 2l5 5-5 5M12 2 7 7l5 5",
  "stays dark": "M7 2a5 5 0 1 0 .01 0M4 4l6 6",
  "never dark": "M7 4a3 3 0 1 0 .01 0M7 1v2M7 11v2M1 7h2M11 7h2",
  "seen on a walk": "M2 8c2-5 9-5 11 0-2 5-9 5-11 0M7.5 6a2 2 0 1 0 .01 0",
  "old mode": "M2 3h7l3 4-3 4H2zM5 7h.5",
};

function FindingRow({ finding }: { finding: Finding }) {
  const edit = useEdit();
  const { repair } = finding;
  const mend = () => {
    if (!repair) return;
    const body = repair.change as object;
    if (repair.table === "walk") {
      const { id: key, label } = repair;
      void edit(() => answer(client.POST("/api/findings/repair", { body: { key, label } })));
      return;
    }
    void edit(() =>
      repair.table === "profile"
        ? answer(
            client.POST("/api/profiles/{profile_id}/mend", {
              params: { path: { profile_id: repair.id } },
              body: body as Schemas["MendMode"],
            }),
          )
        : repair.table === "fixture"
          ? answer(
              client.PATCH("/api/fixtures/{fixture_id}", {
                params: { path: { fixture_id: repair.id } },
                body,
              }),
            )
          : answer(
              client.PATCH("/api/outputs/{output_id}", { params: { path: { output_id: repair.id } }, body }),
            ),
    );
  };
  return (
    <Box
      role="group"
      aria-label={finding.kind}
      onClick={() => finding.fixture && chooseFixtures([finding.fixture])}
      sx={{ px: 2, py: 0.75, display: "grid", gridTemplateColumns: "16px 1fr", gap: 1.25 }}
    >
      <svg width="15" height="15" viewBox="0 0 15 15" aria-hidden="true" style={{ marginTop: 2 }}>
        <path d={SIGNS[finding.kind] ?? "M7 2v7M7 11v1"} stroke={ink.brass} fill="none" strokeWidth="1.4" />
      </svg>
      <Box sx={{ fontSize: 13, lineHeight: "18px" }}>
        {finding.sentence}
        {repair && (
          <Box sx={{ mt: 0.5 }}>
            <Button onClick={mend}>{repair.label}</Button>
          </Box>
        )}
      </Box>
    </Box>
  );
}
