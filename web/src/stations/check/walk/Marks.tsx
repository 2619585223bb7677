import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Fault, type Schemas, type WholeShow } from "../../../api/client";
import { queries, useEdit } from "../../../api/show";
import { Cap, KeyCap, Num } from "../../../components/atoms";
import { byKind, few, MARKS, type WalkView } from "../../../model/walks";
import { ink } from "../../../theme/tokens";
import { MarkSign } from "./MarkSign";
import { mark, press } from "./useWalk";

interface MarksProps {
  show: WholeShow;
  walk: WalkView | null;
  onMissing: (text: string) => void;
}

/** The four marks with their keys and how often they were given, and what they come to. */
export function Marks({ show, walk, onMissing }: MarksProps) {
  const edit = useEdit();
  const found = byKind(show.marks, show.fixtures);
  const any = show.marks.length > 0;
  if (!any && !walk) return null;
  return (
    <Box sx={{ borderBottom: `1px solid ${ink.hair}`, pb: 1 }}>
      {MARKS.map(({ kind, key }) => (
        <Box
          key={kind}
          component="button"
          disabled={!walk}
          aria-label={`Mark ${kind}`}
          onClick={() => walk && void press(walk, show, kind).then(onMissing)}
          sx={{
            display: "grid",
            gridTemplateColumns: "22px 84px minmax(0,1fr) 28px 22px",
            alignItems: "center",
            width: "100%",
            minHeight: 30,
            px: 2,
            font: "inherit",
            color: "inherit",
            textAlign: "left",
            background: "none",
            border: 0,
            cursor: walk ? "pointer" : "default",
            "&:hover": { background: walk ? ink.row : "none" },
          }}
        >
          <MarkSign kind={kind} />
          <span>{kind}</span>
          <Cap sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
            {kind === "good" ? "" : few(found[kind])}
          </Cap>
          <Num style={{ textAlign: "right" }}>{found[kind].length}</Num>
          <Box sx={{ textAlign: "right" }}>{walk && <KeyCap>{key}</KeyCap>}</Box>
        </Box>
      ))}
      <Box sx={{ display: "flex", px: 2, gap: 0.75, mt: 0.5 }}>
        {walk && walk.by === "cell" && (
          <Button
            title="This cell and all after it in its fixture"
            onClick={() => void mark(walk, "dark", { onward: true })}
          >
            Dark from here on
          </Button>
        )}
        {any && (
          <>
            <Button component="a" href="/faults" target="_blank" sx={{ ml: "auto" }}>
              Print
            </Button>
            <Button
              variant="text"
              sx={{ color: ink.soft }}
              onClick={() => edit(() => answer(client.DELETE("/api/marks")))}
            >
              Clear
            </Button>
          </>
        )}
      </Box>
      {any && <Findings revision={show.show.revision} />}
    </Box>
  );
}

/** What the marks come to, asked anew at every revision. */
export function useFindings(revision: number): Schemas["WalkFinding"][] {
  const { data } = useQuery<Schemas["WalkFinding"][], Fault>({
    queryKey: ["findings", revision],
    queryFn: async () => (await answer(client.GET("/api/findings"))) as Schemas["WalkFinding"][],
    placeholderData: (before) => before,
  });
  return data ?? [];
}

function Findings({ revision }: { revision: number }) {
  const findings = useFindings(revision);
  const edit = useEdit();
  const repair = (key: string, label: string) =>
    edit(() => answer(client.POST("/api/findings/repair", { body: { key, label } }))).then(() =>
      queries.invalidateQueries({ queryKey: ["walk"] }),
    );
  return (
    <Box role="list" aria-label="Findings of the walk" sx={{ px: 2 }}>
      {findings.map((one) => (
        <Box
          key={one.key}
          role="listitem"
          sx={{ py: 1, borderTop: `1px solid ${ink.hair}`, fontSize: 13.5, lineHeight: "19px", mt: 0.5 }}
        >
          {one.sentence}
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, mt: 0.75 }}>
            {one.repairs.map(({ label }, index) => (
              <Button
                key={label}
                color={index ? "inherit" : "primary"}
                sx={{ height: "auto", minHeight: 28, textAlign: "left", lineHeight: "17px", py: 0.5 }}
                onClick={() => void repair(one.key, label)}
              >
                {label}
              </Button>
            ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
