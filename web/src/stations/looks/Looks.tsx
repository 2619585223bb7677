import { Box } from "@mui/material";
import { useEffect } from "react";
import { useShow } from "../../api/show";
import { Empty, Pane } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { command, useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { LookList } from "./LookList";
import { LookWork } from "./LookWork";
import { SentPane } from "./SentPane";

/** Station 4: looks, read as lines. */
export function Looks() {
  const { data, error } = useShow();
  const chosen = useView((view) => view.look);
  const look = data?.looks.find((one) => one.id === chosen) ?? data?.looks[0];
  const id = look?.id;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (
        event.key !== " " ||
        !id ||
        target.closest("input, textarea, select, button, a, [role=slider], canvas")
      )
        return;
      event.preventDefault();
      const on = useLive.getState().engine?.state.running.some((run) => run.look === id);
      command({ do: on ? "stop" : "start", look: id });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [id]);
  return (
    <Box
      component="main"
      sx={{ display: "grid", gridTemplateColumns: "212px minmax(0,1fr) 356px", minHeight: 0 }}
    >
      <Pane>{data && <LookList show={data} chosen={look?.id} />}</Pane>
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
      <Pane>{data && look && <SentPane show={data} look={look} />}</Pane>
    </Box>
  );
}
