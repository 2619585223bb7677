import { Box } from "@mui/material";
import { type ReactNode, useState } from "react";
import type { WholeShow } from "../../api/client";
import { useShow } from "../../api/show";
import { Pane } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { useView } from "../../stores/view";
import { AddLine } from "./AddLine";
import { type BatchKind, BatchLine } from "./BatchLine";
import { FixtureDetail } from "./FixtureDetail";
import { RigHead } from "./RigHead";
import { SelectLine } from "./SelectLine";

interface FrameProps {
  at: "fixtures" | "plan";
  /** What stands in the middle: the table, or the plan. */
  children: (show: WholeShow) => ReactNode;
}

/** What the table and the plan share: the typed lines that select, add and change, and the detail at the right. */
export function RigFrame({ at, children }: FrameProps) {
  const { data, error } = useShow();
  const chosen = useView((view) => view.fixtures);
  const [batch, setBatch] = useState<BatchKind | null>(null);
  const fixtures = data?.fixtures.filter((one) => chosen.includes(one.id)) ?? [];
  return (
    <Box
      component="main"
      sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) clamp(308px, 27.5vw, 520px)", minHeight: 0 }}
    >
      <Pane>
        {!data ? (
          <Loading error={error} />
        ) : (
          <>
            <RigHead at={at}>
              <SelectLine show={data} />
            </RigHead>
            {children(data)}
            {batch && fixtures.length ? (
              <BatchLine
                key={batch}
                kind={batch}
                show={data}
                chosen={fixtures}
                onDone={() => setBatch(null)}
              />
            ) : (
              <AddLine show={data} />
            )}
          </>
        )}
      </Pane>
      <Pane aria-label="Detail">{data && <FixtureDetail show={data} onBatch={setBatch} />}</Pane>
    </Box>
  );
}
