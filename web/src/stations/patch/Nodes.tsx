import { Box } from "@mui/material";
import type { Schemas, WholeShow } from "../../api/client";
import { Cap, Num, PaneHead } from "../../components/atoms";
import { sayRuns } from "../../model/ports";
import { type AnnouncedSource, type HeardNode, type HeardStream, useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";
import { useReach } from "./useReach";

type Port = Schemas["PortView"];

/** Universes of another sender that are listed one by one. */
const SENT_SHOWN = 6;

/** Nodes that answer ArtPoll, one entry a device; silence is said in words. */
export function Nodes({ show }: { show: WholeShow }) {
  const receiver = useLive((live) => live.receiver);
  const reach = useReach(show);
  const devices = new Map<string, HeardNode[]>();
  for (const node of receiver?.nodes ?? [])
    if (node.style !== 1) devices.set(node.ip, [...(devices.get(node.ip) ?? []), node]);
  const silent = [...devices.values()].filter((pages) => pages.every((page) => page.silent)).length;
  return (
    <Box>
      <PaneHead title="Nodes heard">
        <Cap>
          {devices.size - silent} answer, {silent} silent
        </Cap>
      </PaneHead>
      {devices.size === 0 && (
        <Cap sx={{ px: 2, pb: 2, fontSize: 13, lineHeight: "18px" }}>
          {receiver
            ? "No node has answered yet. They are asked every 2.5 s on every network card; receivers of sACN alone do not answer."
            : "The receiver does not answer at the moment; it is restarted by itself."}
        </Cap>
      )}
      {[...devices.entries()].map(([ip, pages]) => (
        <NodeEntry key={ip} pages={pages} ports={reach?.ports ?? []} streams={receiver?.streams ?? []} />
      ))}
      <OtherSenders streams={receiver?.streams ?? []} />
      <Announced sources={receiver?.announced ?? []} />
    </Box>
  );
}

/** Devices that send universes to us or to the same groups; which of several counts by its priority. */
function OtherSenders({ streams }: { streams: HeardStream[] }) {
  if (!streams.length) return null;
  const devices = new Map<string, HeardStream[]>();
  for (const one of streams) {
    const who = `${one.name || "without a name"} ${one.ip}`;
    devices.set(who, [...(devices.get(who) ?? []), one]);
  }
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}` }}>
      <PaneHead title="Others that send">
        <Cap>
          {devices.size} {devices.size === 1 ? "device" : "devices"}
        </Cap>
      </PaneHead>
      {[...devices.entries()].map(([who, sent]) => (
        <Box key={who} sx={{ px: 2, pb: 1 }}>
          <b style={{ fontWeight: 600 }}>{sent[0]?.name || "without a name"}</b> <Num>{sent[0]?.ip}</Num>
          {sent.slice(0, SENT_SHOWN).map((one) => (
            <Cap key={`${one.protocol} ${one.number}`} sx={{ display: "block" }}>
              {one.protocol === "sacn" ? "sACN" : "Art-Net"} <Num>{one.number}</Num>
              {one.protocol === "sacn" && (
                <>
                  , priority <Num>{one.priority}</Num>
                </>
              )}
              , <Num>{one.rate.toFixed(1)}</Num> a second, <Num>{one.lost}</Num> lost
              {one.counts ? "" : ", not taken"}
            </Cap>
          ))}
          {sent.length > SENT_SHOWN && <Cap>and {sent.length - SENT_SHOWN} more universes</Cap>}
        </Box>
      ))}
    </Box>
  );
}

/** Sources that announce their universes (sACN universe discovery), sending to us or not. */
function Announced({ sources }: { sources: AnnouncedSource[] }) {
  if (!sources.length) return null;
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}`, pb: 1 }}>
      <PaneHead title="Announced by sACN">
        <Cap>
          {sources.length} {sources.length === 1 ? "source" : "sources"}
        </Cap>
      </PaneHead>
      {sources.map((one) => (
        <Box key={one.cid} sx={{ px: 2, pb: 0.5 }}>
          <b style={{ fontWeight: 600 }}>{one.name || "without a name"}</b> <Num>{one.ip}</Num>
          <Cap>
            sends <Num>{sayRuns(one.universes) || "nothing"}</Num>, said {one.ago_s} s ago
          </Cap>
        </Box>
      ))}
    </Box>
  );
}

interface NodeProps {
  pages: HeardNode[];
  ports: Port[];
  streams: HeardStream[];
}

function NodeEntry({ pages, ports, streams }: NodeProps) {
  const [first] = pages;
  if (!first) return null;
  const silent = pages.every((page) => page.silent);
  return (
    <Box sx={{ px: 2, pb: 1.5 }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "baseline" }}>
        <b style={{ fontWeight: 600 }}>{first.name || "without a name"}</b>
        <Num style={{ marginLeft: "auto" }}>{first.ip}</Num>
      </Box>
      <Cap sx={{ color: silent ? ink.brass : ink.soft }}>
        {silent ? "silent for" : "answered"} <Num>{Math.round(Math.min(...pages.map((p) => p.ago_s)))}</Num> s
        {silent ? "" : " ago"}
      </Cap>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "repeat(auto-fill, minmax(88px, 1fr))",
          gap: 0.5,
          mt: 0.5,
        }}
      >
        {pages.flatMap((page) =>
          page.outputs.map((number) => (
            <Cap key={`${page.bind_index} ${number}`} sx={{ borderLeft: `1px solid ${ink.hair2}`, pl: 0.75 }}>
              {page.by_sacn ? "sACN" : "Art-Net"} <Num>{number}</Num>
              <br />
              {gets(ports, page.ip, page.by_sacn ? "sacn" : "artnet", number)}
              {alsoFrom(streams, page.by_sacn ? "sacn" : "artnet", number)}
            </Cap>
          )),
        )}
      </Box>
    </Box>
  );
}

/** Who else sends what a port listens to. */
function alsoFrom(streams: HeardStream[], protocol: string, number: number): string {
  const others = streams.filter((one) => one.protocol === protocol && one.number === number);
  return others.length ? `, also from ${others.map((one) => one.ip).join(", ")}` : "";
}

/** Which of our universes come to a port. */
function gets(ports: Port[], ip: string, protocol: string, number: number): string {
  const port = ports.find((one) => one.ip === ip && one.protocol === protocol && one.number === number);
  return port?.universes.length
    ? `gets ${port.universes.map((one) => `U${one}`).join(", ")}`
    : "gets nothing";
}
