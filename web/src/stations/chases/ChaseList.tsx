import { Box, Button } from "@mui/material";
import { answer, client, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, ListCard, OneLine } from "../../components/atoms";
import { useLive } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { type Chase, pictureUrl } from "./useFramePicture";

/** The chases of the show, which of them are on, and a new one on the matrix that was chosen last. */
export function ChaseList({ show, chosen }: { show: WholeShow; chosen: string | undefined }) {
  const edit = useEdit();
  const last = useView((view) => view.matrix);
  const matrix = show.matrices.find((one) => one.id === last) ?? show.matrices[0];
  const running = useLive((live) => live.engine?.state.running);
  const on = new Set(running?.flatMap((run) => run.chases.map((one) => one.chase)));
  const begin = async () => {
    if (!matrix) return;
    const body = { id: newId(), name: `Chase ${show.chases.length + 1}`, matrix: matrix.id, selection: "" };
    if (await edit(() => answer(client.POST("/api/chases", { body })))) useView.setState({ chase: body.id });
  };
  return (
    <Box
      sx={{
        borderTop: `1px solid ${ink.hair}`,
        pt: 1.25,
        pb: 1,
        maxHeight: 236,
        overflowY: "auto",
        flex: "none",
      }}
    >
      <Box sx={{ display: "flex", alignItems: "center", px: 2, mb: 0.5 }}>
        <b style={{ fontWeight: 600, marginRight: "auto" }}>Chases</b>
        <Button
          disabled={!matrix}
          title={matrix && `An empty frame on ${matrix.name}`}
          onClick={() => void begin()}
        >
          Draw
        </Button>
      </Box>
      {show.chases.map((chase) => (
        <ChaseItem key={chase.id} chase={chase} here={chase.id === chosen} on={on.has(chase.id)} />
      ))}
      {!show.chases.length && <Cap sx={{ px: 2 }}>Frames that are drawn, or unrolled from a line.</Cap>}
    </Box>
  );
}

function ChaseItem({ chase, here, on }: { chase: Chase; here: boolean; on: boolean }) {
  const count = chase.frames.length === 1 ? "1 frame" : `${chase.frames.length} frames`;
  return (
    <ListCard
      picture={48}
      here={here}
      aria-pressed={here}
      title={chase.name}
      onClick={() => useView.setState({ chase: chase.id })}
    >
      <Box sx={{ width: 48, height: 26, background: ink.lamp, display: "grid", placeItems: "center" }}>
        <img
          alt=""
          src={pictureUrl(chase.id, chase.frames[0]?.picture ?? "")}
          style={{ imageRendering: "pixelated", width: "100%", height: "100%", objectFit: "contain" }}
        />
      </Box>
      <Box component="span" sx={{ minWidth: 0 }}>
        <OneLine>{chase.name}</OneLine>
        <Cap sx={{ color: on ? ink.sea : ink.soft }}>
          {on && "● on, "}
          {count}
        </Cap>
      </Box>
    </ListCard>
  );
}
