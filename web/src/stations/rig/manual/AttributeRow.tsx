import { Box, Button } from "@mui/material";
import { useState } from "react";
import { Chip, Num } from "../../../components/atoms";
import { Range } from "../../../components/Range";
import { Typed } from "../../../components/Typed";
import { type Attribute, keyOf, levelOf, levelsAt, sayPhysical } from "../../../model/manual";
import { toByte, toPercent } from "../../../model/values";
import { hold, typeByHand } from "../../../stores/hands";
import { ink } from "../../../theme/tokens";
import { areMixed, useLevelsSent, usePlaceSent } from "./usePlaceSent";

interface RowProps {
  attribute: Attribute;
  held: Record<string, number>;
}

/** One attribute of everything chosen: a fader, its value typed as number, percent, degrees or fan, its words. */
export function AttributeRow({ attribute, held }: RowProps) {
  const { places, channel, word } = attribute;
  const [moving, setMoving] = useState<number | null>(null);
  const [coarse, fine] = usePlaceSent(places[0]);
  const sent = levelOf(channel, coarse, fine);
  const [all = []] = useLevelsSent([attribute]);
  const mixed = moving === null && areMixed(all);
  const level = moving ?? sent;
  const isHeld = places.some((one) => held[one.key] !== undefined);
  const set = (level: number) => hold("manual", { levels: levelsAt(places, level) });
  const release = () =>
    hold("manual", {
      values: Object.fromEntries(
        places.flatMap((one) => [one.key, one.fineKey].filter(Boolean).map((key) => [key, null])),
      ),
    });
  const type = (text: string) => typeByHand({ do: "type_values", text, keys: places.map(keyOf) });
  const named = channel.ranges.filter((one) => one.name && one.kind !== "dim");
  return (
    <Box sx={{ py: "1px" }}>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "92px 1fr 44px 54px 16px",
          alignItems: "center",
          gap: 0.75,
        }}
      >
        <Box
          title={`${attribute.name}, ${places.length} in all`}
          sx={{ fontSize: 13, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
        >
          {word}
        </Box>
        <Range
          label={word}
          min={0}
          max={255}
          step={channel.step * 255}
          value={level * 255}
          held={isHeld}
          onMove={(next) => {
            setMoving(next / 255);
            set(next / 255);
          }}
          onCommit={() => setTimeout(() => setMoving(null), 300)}
        />
        <Num style={{ color: ink.soft, textAlign: "right", whiteSpace: "nowrap" }}>
          {mixed ? "mixed" : sayPhysical(channel, level) || `${toPercent(level)} %`}
        </Num>
        <Typed numeric label={`${word}, typed`} value={mixed ? "" : String(toByte(level))} onCommit={type} />
        {isHeld ? (
          <Button
            variant="text"
            aria-label={`Release ${word}`}
            title="Held by hand: release it"
            onClick={release}
            sx={{ px: 0, color: ink.brass, minWidth: 0 }}
          >
            ×
          </Button>
        ) : (
          <span />
        )}
      </Box>
      {named.length > 0 && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5, pl: "98px", pb: 0.75 }}>
          {named.map((one) => {
            const on = one.low <= coarse && coarse <= one.high;
            return (
              <Chip
                key={`${one.first} ${one.name}`}
                active={on}
                aria-pressed={on}
                title={`${one.first} to ${one.last}`}
                onClick={() =>
                  hold("manual", { values: Object.fromEntries(places.map((p) => [p.key, one.value])) })
                }
                sx={{ height: 21, px: 0.75, fontSize: 12 }}
              >
                {one.picture && <img src={one.picture} alt="" width={15} height={15} />}
                {one.colour && (
                  <Box sx={{ width: 10, height: 10, borderRadius: "2px", background: one.colour }} />
                )}
                {one.name}
              </Chip>
            );
          })}
        </Box>
      )}
    </Box>
  );
}
