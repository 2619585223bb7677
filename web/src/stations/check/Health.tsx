import { Box } from "@mui/material";
import type { WholeShow } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

/** Figures of the engine, of each output and of what arrives, as they are measured. */
export function Health({ show }: { show: WholeShow }) {
  const { engine, receiver } = useLive();
  const stats = engine?.stats;
  const rows: [string, string, boolean?][] = stats
    ? [
        ["frames a second", (stats.frames_per_s ?? 0).toFixed(2), (stats.frames_per_s ?? 0) < 43],
        ["skipped frames since start", String(stats.skipped), (stats.skipped ?? 0) > 0],
        ["rendering a frame", `${stats.render_ms} ms`],
        ["sending a frame", `${stats.send_ms} ms`],
        [
          "late, mean and most",
          `${stats.late_ms} and ${stats.late_max_ms} ms`,
          (stats.late_max_ms ?? 0) > 20,
        ],
        ["engine's share of a core", `${((stats.processor_share ?? 0) * 100).toFixed(1)} %`],
        [
          "time stolen from the machine",
          `${(stats.stolen_ticks ?? 0) * 10} ms in 1 s`,
          (stats.stolen_ticks ?? 0) > 5,
        ],
      ]
    : [];
  return (
    <Box sx={{ px: 2, pb: 2, fontSize: 13 }}>
      {!engine && <Cap>The engine does not answer this page; it is restarted by itself.</Cap>}
      {rows.map(([name, value, bad]) => (
        <Line key={name} name={name} value={value} bad={bad} />
      ))}
      {show.outputs.map((output) => {
        const stat = engine?.outputs.find((one) => one.id === output.id);
        const value = stat ? `${stat.packets} sent, ${stat.errors} failed` : output.on ? "starting" : "off";
        return <Line key={output.id} name={output.name} value={value} bad={Boolean(stat?.last_error)} />;
      })}
      {receiver && (
        <>
          <Line
            name="Art-Net heard"
            value={`${receiver.counts["poll replies"] ?? 0} replies, ${receiver.counts.polls ?? 0} polls`}
          />
          <Line
            name="malformed packets refused"
            value={String(receiver.malformed_total)}
            bad={receiver.malformed_total > 0}
          />
          {receiver.malformed.slice(0, 3).map((one) => (
            <Line
              key={one.sender}
              name={`from ${one.sender}`}
              value={`${one.packets}, last: ${one.last}`}
              bad
            />
          ))}
        </>
      )}
    </Box>
  );
}

function Line({ name, value, bad }: { name: string; value: string; bad?: boolean }) {
  return (
    <Box
      sx={{
        display: "flex",
        justifyContent: "space-between",
        gap: 2,
        lineHeight: "24px",
        borderBottom: `1px solid ${ink.hair}`,
        whiteSpace: "nowrap",
      }}
    >
      <Box sx={{ color: ink.soft, overflow: "hidden", textOverflow: "ellipsis" }}>{name}</Box>
      <Num style={{ color: bad ? ink.brass : ink.text }}>
        {bad ? "! " : ""}
        {value}
      </Num>
    </Box>
  );
}
