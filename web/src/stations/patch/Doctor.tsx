import { Box, Button } from "@mui/material";
import { answer, client, type Schemas, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, PaneHead } from "../../components/atoms";
import { chooseFixtures } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { type Finding, FindingSign, useFindings } from "./findings";
import { useReach } from "./useReach";

/** What will go wrong with the patch: each finding a sentence, with its repair where there is one. */
export function Doctor({ show }: { show: WholeShow }) {
  const data = useFindings(show);
  const reach = useReach(show);
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
      {data && !findings.length && <Cap sx={{ px: 2 }}>{reach?.clear}</Cap>}
    </Box>
  );
}

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
      <Box sx={{ pt: "2px" }}>
        <FindingSign finding={finding} />
      </Box>
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
