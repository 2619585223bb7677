import { Box } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { answer, client, type LookView, type Schemas } from "../../api/client";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

const ASK_AGAIN_MS = 700;

/** What the preview process finds when it paints the look ten seconds ahead: whether it flashes, where, by which line. */
export function useFlashes(look: LookView): Schemas["Flashes"] | undefined {
  const bpm = useLive((live) => live.engine?.state.bpm ?? 0).toFixed(1);
  const { data } = useQuery({
    queryKey: ["flashes", look.id, look.rev, bpm],
    queryFn: async () =>
      (await answer(
        client.GET("/api/looks/{look_id}/flashes", { params: { path: { look_id: look.id } } }),
      )) as Schemas["Flashes"],
    enabled: look.lines.length > 0,
    retry: false,
    refetchInterval: (query) => (query.state.data?.known ? false : ASK_AGAIN_MS),
  });
  return data?.known && data.too_many ? data : undefined;
}

/** Beside the name of a look that flashes: how often, where, and the line that makes it. A warning: nothing is held back. */
export function FlashNote({ look }: { look: LookView }) {
  const found = useFlashes(look);
  if (!found) return null;
  const by = found.line ? `line ${found.line}` : "several lines together";
  return (
    <Box
      role="status"
      title={
        `Found ten seconds ahead: ${found.cells} of ${found.of} squares ${found.red ? "flash in saturated red" : "flash"} ` +
        "more than three times in one second. More than three over a quarter of a picture are beyond WCAG 2.2 (2.3.1). " +
        "A warning: nothing is held back."
      }
      sx={{
        display: "inline-flex",
        alignItems: "center",
        gap: 0.75,
        px: 1,
        py: "2px",
        fontSize: 13,
        lineHeight: "18px",
        color: ink.brass,
        border: `1px solid ${ink.brassSoft}`,
        borderRadius: "4px",
      }}
    >
      <svg width="18" height="12" viewBox="0 0 18 12" aria-hidden="true">
        <path d="M1 11V1h4v10h4V1h4v10h4" fill="none" stroke="currentColor" strokeWidth="1.5" />
      </svg>
      flashes {found.rate} times a second on {found.name}: {by}
    </Box>
  );
}
