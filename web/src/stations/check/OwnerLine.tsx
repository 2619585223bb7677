import { Box, Button } from "@mui/material";
import { answer, client, type Schemas, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, Num } from "../../components/atoms";
import { Fader } from "../../components/Fader";
import { backLevels, useBack } from "../../stores/back";
import { hold } from "../../stores/hands";
import { useIsSent, useLive, useSent } from "../../stores/live";
import { ink } from "../../theme/tokens";

type Owners = Schemas["Levels"]["owners"];

interface OwnerProps {
  universe: number;
  channel: number;
  owners: Owners;
  pinned: boolean;
  parked: WholeShow["parked"];
}

const NARROW_PX = 1220;

/** The channel's value, its owner, and its raw fader: it moves a lamp before any fixture exists. */
export function OwnerLine({ universe, channel, owners, pinned, parked }: OwnerProps) {
  const live = useSent(universe, channel);
  const sent = useIsSent(universe);
  const then = useBack((back) => back.moment !== null);
  const value = then ? (backLevels.current?.[channel - 1] ?? 0) : live;
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
        columnGap: 1.5,
        alignItems: "center",
        // Whose channel it is takes a line of its own where there is no room beside the fader.
        [`@media (max-width: ${NARROW_PX}px)`]: {
          gridTemplateColumns: "76px 34px 62px minmax(0,1fr) 60px",
          "& > [data-owner]": { gridRow: 2, gridColumn: "1 / -1" },
        },
      }}
    >
      <Num style={{ fontSize: 16, fontWeight: 600 }}>{`U${universe}.${channel}`}</Num>
      <Num style={{ fontSize: 16, color: then ? ink.brass : ink.text }}>{!then && !sent ? "–" : value}</Num>
      <Num style={{ color: then ? ink.brass : ink.soft, whiteSpace: "nowrap" }}>
        {then ? "then" : sent ? `${((value / 255) * 100).toFixed(1)} %` : "not sent"}
      </Num>
      <span data-owner>
        {owners.length
          ? owners.map((o) => `${o.label} of ${o.written} ${o.name}`).join(", and ")
          : "no fixture owns this channel"}
        {!pinned && <Cap>click a channel to keep it</Cap>}
      </span>
      {then ? (
        <Cap sx={{ gridColumn: "span 2" }}>What is held acts now: go back to now first.</Cap>
      ) : (
        <Fader
          label={`Raw ${key}`}
          value={sent ? value : (raw ?? value)}
          held={raw !== undefined}
          onMove={(next) => hold("raw", { values: { [key]: next } })}
          onRelease={() => hold("raw", { values: { [key]: null } })}
        />
      )}
      {!then && (
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
      )}
    </Box>
  );
}
