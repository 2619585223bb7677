import { Box, Button } from "@mui/material";
import { answer, client, type Schemas, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, Num } from "../../components/atoms";
import { Fader } from "../../components/Fader";
import { hold } from "../../stores/hands";
import { useLive, useSent } from "../../stores/live";
import { ink } from "../../theme/tokens";

type Owners = Schemas["Levels"]["owners"];

interface OwnerProps {
  universe: number;
  channel: number;
  owners: Owners;
  pinned: boolean;
  parked: WholeShow["parked"];
}

/** The channel's value, its owner, and its raw fader: it moves a lamp before any fixture exists. */
export function OwnerLine({ universe, channel, owners, pinned, parked }: OwnerProps) {
  const value = useSent(universe, channel);
  const key = `${universe}.${channel}`;
  const raw = useLive((live) => live.engine?.state.raw[key]);
  const edit = useEdit();
  const isParked = parked.some((one) => one.universe === universe && one.channel === channel);
  return (
    <Box
      role="status"
      aria-label="Channel"
      sx={{
        borderTop: `1px solid ${ink.hair}`,
        px: 2,
        py: 0.5,
        display: "grid",
        gridTemplateColumns: "76px 34px 62px minmax(0,1fr) 196px 60px",
        gap: 1.5,
        alignItems: "center",
      }}
    >
      <Num style={{ fontSize: 16, fontWeight: 600 }}>{`U${universe}.${channel}`}</Num>
      <Num style={{ fontSize: 16 }}>{value}</Num>
      <Num style={{ color: ink.soft }}>{((value / 255) * 100).toFixed(1)} %</Num>
      <span>
        {owners.length
          ? owners.map((o) => `${o.label} of ${o.written} ${o.name}`).join(", and ")
          : "no fixture owns this channel"}
        {!pinned && <Cap>click a channel to keep it</Cap>}
      </span>
      <Fader
        label={`Raw ${key}`}
        value={value}
        held={raw !== undefined}
        onMove={(next) => hold("raw", { values: { [key]: next } })}
        onRelease={() => hold("raw", { values: { [key]: null } })}
      />
      <Button
        aria-pressed={isParked}
        title={
          isParked
            ? "The show holds it at this value: press to release it"
            : "Lets the show hold it at this value"
        }
        sx={{ minWidth: 0, px: 0.75, color: isParked ? ink.brass : ink.text }}
        onClick={() =>
          void edit(() => {
            const values = { [key]: isParked ? null : value };
            return answer(client.PUT("/api/parked", { body: { values } }));
          }).then((done) => done && !isParked && hold("raw", { values: { [key]: null } }))
        }
      >
        {isParked ? "Parked" : "Park"}
      </Button>
    </Box>
  );
}
