import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { WholeShow } from "../../api/client";
import { answer, client } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

const BEHIND_MS = 2000;

/** How the program is, in sentences; the figures behind them are a press away. */
export function Health({ show }: { show: WholeShow }) {
  const [figures, setFigures] = useState(false);
  const { data, isError } = useHealth();
  const lines = data?.says ?? [];
  return (
    <Box sx={{ px: 2, pb: 2, fontSize: 13.5, lineHeight: "19px" }}>
      {isError && <Cap>The server does not answer; the lamps go on without it.</Cap>}
      <Box component="ul" aria-label="How it is" sx={{ m: 0, p: 0, listStyle: "none" }}>
        {lines.map((one) => (
          <Box
            component="li"
            key={one.text.replace(/\d+/g, "")}
            sx={{ display: "grid", gridTemplateColumns: "20px 1fr", py: "3px" }}
          >
            <svg
              width="13"
              height="13"
              viewBox="0 0 13 13"
              role="img"
              aria-label={one.good ? "well" : "not well"}
            >
              {one.good ? (
                <path d="M2 7 5.5 10.5 11 3" fill="none" stroke={ink.sea} strokeWidth="1.6" />
              ) : (
                <path
                  d="M6.5 1.5 12 11.5H1Z M6.5 5v3 M6.5 9.4v1"
                  fill="none"
                  stroke={ink.brass}
                  strokeWidth="1.4"
                />
              )}
            </svg>
            <span style={{ color: one.good ? ink.text : ink.brass }}>{one.text}</span>
          </Box>
        ))}
      </Box>
      <Button
        variant="text"
        aria-expanded={figures}
        sx={{ px: 0, mt: 0.5 }}
        onClick={() => setFigures((before) => !before)}
      >
        {figures ? "Without figures" : "Figures"}
      </Button>
      {figures && <Figures show={show} />}
    </Box>
  );
}

const useHealth = () =>
  useQuery({
    queryKey: ["health"],
    queryFn: () => answer(client.GET("/api/health")),
    refetchInterval: BEHIND_MS,
  });

/** Figures of the engine, of each output and of what arrives, as they are measured. */
function Figures({ show }: { show: WholeShow }) {
  const { engine, receiver } = useLive();
  const stats = engine?.stats;
  const devices = [...new Map((receiver?.nodes ?? []).map((node) => [node.ip, node])).values()];
  const rows: [string, string, boolean?][] = stats
    ? [
        ["frames a second", (stats.frames_per_s ?? 0).toFixed(2), (stats.frames_per_s ?? 0) < 43],
        ["left out since start", String(stats.skipped), (stats.skipped ?? 0) > (stats.skipped_stolen ?? 0)],
        ["rendering a frame", `${stats.render_ms} ms`],
        ["sending a frame", `${stats.send_ms} ms`],
        ["late, mean, most", `${stats.late_ms}, ${stats.late_max_ms} ms`, (stats.late_max_ms ?? 0) > 20],
        ["share of a core", `${((stats.processor_share ?? 0) * 100).toFixed(1)} %`],
        ["stolen time", `${(stats.stolen_ticks ?? 0) * 10} ms in 1 s`, (stats.stolen_ticks ?? 0) > 5],
      ]
    : [];
  return (
    <Box sx={{ fontSize: 13 }}>
      {!engine && <Cap>The engine does not answer this page; it is restarted by itself.</Cap>}
      {rows.map(([name, value, bad]) => (
        <Line key={name} name={name} value={value} bad={bad} />
      ))}
      {show.outputs.map((output) => {
        const stat = engine?.outputs.find((one) => one.id === output.id);
        const failed = stat?.errors ? `, ${stat.errors} failed` : "";
        const value = stat ? `${stat.packets} sent${failed}` : output.on ? "starting" : "off";
        return <Line key={output.id} name={output.name} value={value} bad={Boolean(stat?.last_error)} />;
      })}
      <Behind />
      {devices.map((node) => (
        <Line
          key={node.ip}
          name={node.name}
          value={
            node.silent ? `silent for ${node.ago_s.toFixed(0)} s` : `answered ${node.ago_s.toFixed(1)} s ago`
          }
          bad={node.silent}
        />
      ))}
      {receiver && (
        <>
          <Line
            name="Art-Net heard"
            value={`${receiver.counts["poll replies"] ?? 0} replies, ${receiver.counts.polls ?? 0} polls`}
          />
          <Line
            name="malformed, refused"
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

/** What stands behind the engine: database, spool, network cards. */
function Behind() {
  const { data } = useHealth();
  if (!data) return null;
  const { database_ms: database, spool_behind: behind, spool_copy_s: copy } = data;
  return (
    <>
      <Line
        name="database"
        value={
          database === null || database === undefined
            ? "does not answer"
            : `${database} ms, ${Math.round(data.database_bytes / 1e6)} MB`
        }
        bad={database === null || database === undefined}
      />
      <Line
        name="spool"
        value={typeof behind === "number" ? `${behind} behind, disk ${copy ?? "?"} s` : "nothing kept"}
        bad={typeof behind !== "number" || behind > 2}
      />
      {data.cards.map((card) => (
        <Line
          key={card.address}
          name={`card ${card.name}`}
          value={`${card.address}${card.up ? "" : " down"}`}
          bad={!card.up}
        />
      ))}
    </>
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
      <Box sx={{ color: ink.soft, overflow: "hidden", textOverflow: "ellipsis" }} title={name}>
        {name}
      </Box>
      <Num style={{ color: bad ? ink.brass : ink.text }}>
        {bad ? "! " : ""}
        {value}
      </Num>
    </Box>
  );
}
