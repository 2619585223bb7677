import { Box, Button } from "@mui/material";
import { useState } from "react";
import { answer, client, type Fault, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, Chip, FaultNote, KeyCap } from "../../components/atoms";
import { ink, mono } from "../../theme/tokens";
import { CardSelect } from "./CardSelect";
import { universesOf } from "./universes";

const KINDS = [
  { key: "sacn multicast", label: "sACN multicast", protocol: "sacn", mode: "multicast" },
  { key: "sacn unicast", label: "sACN unicast", protocol: "sacn", mode: "unicast" },
  { key: "artnet unicast", label: "Art-Net unicast", protocol: "artnet", mode: "unicast" },
  { key: "artnet broadcast", label: "Art-Net broadcast", protocol: "artnet", mode: "broadcast" },
] as const;

/** A new output in one short form; its numbers are proposed from what is patched and not sent yet. */
export function NewOutput({ show, onDone }: { show: WholeShow; onDone: () => void }) {
  const waiting = universesOf(show)
    .filter((u) => u.fixtures.length && !u.sentBy.length)
    .map((u) => u.number);
  const proposedFirst =
    waiting[0] ?? Math.max(0, ...show.outputs.map((o) => o.first_universe + o.count - 1)) + 1;
  const proposedCount = waiting.length ? (waiting.at(-1) ?? proposedFirst) - proposedFirst + 1 : 1;
  const [kind, setKind] = useState<(typeof KINDS)[number]>(KINDS[0]);
  const [first, setFirst] = useState(String(proposedFirst));
  const [count, setCount] = useState(String(proposedCount));
  const [number, setNumber] = useState("");
  const [destination, setDestination] = useState("");
  const [card, setCard] = useState("");
  const [fault, setFault] = useState<Fault | null>(null);
  const edit = useEdit();
  const ownNumber = Number(first) - (kind.protocol === "sacn" ? 0 : 1);

  const add = async () => {
    const body = {
      id: newId(),
      name: `${kind.label}${destination ? ` to ${destination}` : ""}`.slice(0, 120),
      protocol: kind.protocol,
      mode: kind.mode,
      destination: kind.mode === "unicast" ? destination : "",
      card,
      first_universe: Number(first),
      count: Number(count),
      first_number: number === "" ? ownNumber : Number(number),
      priority: 100,
      sync: 0,
      rate_hz: 44,
      when_ends: "dark" as const,
      mute: false,
      on: true,
    };
    if (await edit(() => answer(client.POST("/api/outputs", { body })), setFault)) onDone();
  };

  const field = (
    id: string,
    label: string,
    value: string,
    set: (text: string) => void,
    width: number,
    hint = "",
  ) => (
    <Box component="label" htmlFor={id} sx={{ fontSize: 12, color: ink.soft }}>
      {label}
      <Box
        component="input"
        id={id}
        value={value}
        placeholder={hint}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => set(event.target.value)}
        sx={{
          display: "block",
          width,
          height: 28,
          px: 0.75,
          font: `500 13px ${mono}`,
          color: ink.text,
          background: ink.ground,
          border: `1px solid ${ink.hair2}`,
          borderRadius: "4px",
          "&::placeholder": { color: ink.faint, opacity: 1 },
        }}
      />
    </Box>
  );

  return (
    <Box
      component="form"
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        void add();
      }}
      sx={{
        borderTop: `1px solid ${ink.brassSoft}`,
        background: ink.brassGround,
        p: 2,
        display: "grid",
        gap: 1.25,
      }}
    >
      <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap" }}>
        {KINDS.map((one) => (
          <Chip
            type="button"
            key={one.key}
            active={one.key === kind.key}
            aria-pressed={one.key === kind.key}
            onClick={() => setKind(one)}
          >
            {one.label}
          </Chip>
        ))}
      </Box>
      <Box sx={{ display: "flex", gap: 1.25, alignItems: "flex-end" }}>
        {field("out-first", "first universe", first, setFirst, 64)}
        {field("out-count", "how many", count, setCount, 56)}
        {field("out-number", "on the wire from", number, setNumber, 84, String(ownNumber))}
        {kind.mode === "unicast" &&
          field("out-to", "to (address or name)", destination, setDestination, 118, "192.0.2.17")}
      </Box>
      <CardSelect value={card} onChange={setCard} />
      <Cap>
        {kind.protocol === "artnet"
          ? `U${first} is Port-Address ${number || ownNumber} on the wire; a node that counts from 1 calls it ${Number(number || ownNumber) + 1}.`
          : `U${first} is sACN universe ${number || ownNumber}.`}
      </Cap>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      <Box sx={{ display: "flex", gap: 1 }}>
        <Button type="submit" color="primary">
          Add output <KeyCap>Enter</KeyCap>
        </Button>
        <Button variant="text" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
