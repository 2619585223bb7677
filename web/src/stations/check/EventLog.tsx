import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { download } from "../../api/download";
import { Cap, Num, PaneHead } from "../../components/atoms";
import { notify } from "../../stores/notices";
import { ink } from "../../theme/tokens";

/** What happened, in words, newest first; kept across restarts. */
export function EventLog() {
  const { data } = useQuery({
    queryKey: ["events"],
    queryFn: () => answer(client.GET("/api/events")),
    refetchInterval: 2000,
  });
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}` }}>
      <PaneHead title="Event log">
        <Button onClick={() => void download("/api/events.csv", "events.csv").catch(notify)}>Export</Button>
      </PaneHead>
      <Box sx={{ px: 2, pb: 2, fontSize: 13, lineHeight: "20px" }}>
        {data?.length === 0 && <Cap>Nothing has happened yet.</Cap>}
        {data?.slice(0, 60).map((event) => (
          <Box
            key={`${event.at}${event.text}`}
            sx={{ display: "grid", gridTemplateColumns: "68px 1fr", gap: 1 }}
          >
            <Num style={{ color: ink.soft }}>{new Date(event.at).toLocaleTimeString("en-GB")}</Num>
            <Box sx={{ color: event.level === "info" ? ink.text : ink.brass, overflowWrap: "anywhere" }}>
              {event.text}
            </Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
