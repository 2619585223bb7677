import { Box, useMediaQuery } from "@mui/material";
import type { WholeShow } from "../../api/client";
import { Empty } from "../../components/atoms";
import { fetched } from "../../components/fetched";
import { ink } from "../../theme/tokens";
import { FixtureTable } from "./FixtureTable";
import { FoldedTable } from "./FoldedTable";
import { useKeepKey } from "./manual/KeepAsLook";
import { RigFrame } from "./RigFrame";

const PlanWork = fetched<{ show: WholeShow; beside?: boolean }>(
  async () => (await import("./plan/Plan")).PlanWork,
);

/** From here on the plan has room beside the table, which is folded then. */
const WIDE = "(min-width: 1180px)";

function TableAndPlan({ show }: { show: WholeShow }) {
  const wide = useMediaQuery(WIDE);
  if (!wide || !show.plans.length) return <FixtureTable show={show} />;
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        display: "grid",
        gridTemplateColumns: "minmax(520px, 0.85fr) minmax(0, 1fr)",
        "& > *": { minWidth: 0, minHeight: 0, display: "flex", flexDirection: "column" },
        "& > * + *": { borderLeft: `1px solid ${ink.hair}` },
      }}
    >
      <div>
        <FoldedTable show={show} />
      </div>
      <div>
        <PlanWork show={show} beside />
      </div>
    </Box>
  );
}

/** Station 1: what hangs there, as a table; on a wide screen with the plan beside it. */
export function Rig() {
  useKeepKey();
  return (
    <RigFrame at="fixtures">
      {(show) =>
        show.fixtures.length ? (
          <TableAndPlan show={show} />
        ) : (
          <Box sx={{ flex: 1 }}>
            <Empty title="Nothing hangs here yet">
              Type what you have into the line below, the way you would say it: <b>21 x RGB lamp</b>, or{" "}
              <b>18 x RGB pixel strip, mode 50 RGB, from 101, Tower {"{n}"}</b>. Numbers and addresses count
              on by themselves, and you see all of them before anything is added.
            </Empty>
          </Box>
        )
      }
    </RigFrame>
  );
}
