import { Box } from "@mui/material";
import { useEffect } from "react";
import { useShownShow } from "../../api/show";
import { Empty, Pane } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { act } from "../../stores/hands";
import { useLive, watchLooks } from "../../stores/live";
import { useView } from "../../stores/view";
import { ChaseStation } from "../chases/ChaseStation";
import { FrameThrice } from "./FrameThrice";
import { LookList } from "./LookList";
import { LookWork } from "./LookWork";

/** Station 4: looks, read as lines. */
export function Looks() {
  const { data, error } = useShownShow();
  const chosen = useView((view) => view.look);
  const look = data?.looks.find((one) => one.id === chosen) ?? data?.looks[0];
  const drawn = useView((view) => view.chase);
  const chase = data?.chases.find((one) => one.id === drawn);
  const id = chase ? undefined : look?.id;
  const listed = data?.looks.map((one) => one.id).join() ?? "";
  useEffect(() => watchLooks(id ?? "", listed ? listed.split(",") : []), [id, listed]);
  useEffect(() => () => watchLooks("", []), []);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (!id || event.altKey || target.closest("input, textarea, [role=slider], canvas")) return;
      if (event.key === "ArrowUp" || event.key === "ArrowDown") {
        const ids = (look?.lines ?? []).map((one) => one.id);
        if (!ids.length) return;
        const at = ids.indexOf(useView.getState().line ?? "");
        const next = at < 0 ? ids.length - 1 : at + (event.key === "ArrowUp" ? 1 : -1);
        useView.setState({ line: ids[Math.min(Math.max(next, 0), ids.length - 1)] ?? null });
        event.preventDefault();
        return;
      }
      if (
        event.key !== " " ||
        !id ||
        target.closest("input, textarea, select, button, a, [role=slider], canvas")
      )
        return;
      event.preventDefault();
      const on = useLive.getState().engine?.state.running.some((run) => run.look === id && !run.of);
      act(`look/${id}/on`, !on);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [id, look]);
  return (
    <Box
      component="main"
      sx={{
        display: "grid",
        gridTemplateColumns: "clamp(176px, 16.5vw, 300px) minmax(0,1fr) clamp(316px, 28vw, 720px)",
        minHeight: 0,
      }}
    >
      <Pane>{data && <LookList show={data} chosen={id} chase={chase?.id} />}</Pane>
      {data && chase ? (
        <ChaseStation key={chase.id} show={data} chase={chase} />
      ) : (
        <>
          <Pane>
            {!data ? (
              <Loading error={error} />
            ) : look ? (
              <LookWork key={look.id} show={data} look={look} />
            ) : (
              <Empty title="No look yet">
                {data.matrices.length
                  ? "A look is a stack of lines, each painting one matrix. Begin with New, or drop a video on the left."
                  : "A look paints matrices. Make one first (key 3)."}
              </Empty>
            )}
          </Pane>
          <Pane>{data && look && <FrameThrice show={data} look={look} />}</Pane>
        </>
      )}
    </Box>
  );
}
