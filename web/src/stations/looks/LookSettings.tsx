import { Box } from "@mui/material";
import { answer, client, type LookView, problemOf, type Schemas } from "../../api/client";
import { refreshShow } from "../../api/show";
import { Cap } from "../../components/atoms";
import { Tint } from "../../components/Tint";
import { Typed } from "../../components/Typed";
import { NO_NUMBER, round, typedNumber } from "../../model/values";
import { typeHandle } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

/** What a look has beside its lines: its fades by hand, its speed and tint now, its folder and its note. */
export function LookSettings({ look }: { look: LookView }) {
  const speed = useLive((live) => live.engine?.state.speeds[look.id]) ?? 1;
  const [hue, amount] = useLive((live) => live.engine?.state.look_tints[look.id]) ?? [0, 0];
  const patch = (body: Schemas["LookPatch"]) =>
    problemOf(async () => {
      const params = { path: { look_id: look.id } };
      await answer(client.PATCH("/api/looks/{look_id}", { params, body: { ...body, rev: look.rev } }));
      await refreshShow();
    });
  const number = (label: string, value: number, unit: string, set: (value: number) => unknown) => (
    <Typed
      numeric
      quiet
      width={unit === " %" ? 58 : 54}
      label={label}
      value={`${round(value, 1)}${unit}`}
      onCommit={(text) => {
        const typed = typedNumber(text);
        return typed === null ? NO_NUMBER : set(typed);
      }}
    />
  );
  return (
    <Box
      role="group"
      aria-label="The look as a whole"
      sx={{
        display: "flex",
        alignItems: "center",
        flexWrap: "wrap",
        columnGap: 0.5,
        px: 2,
        py: 0.5,
        fontSize: 13,
        borderBottom: `1px solid ${ink.hair}`,
        "& > span": { color: ink.soft, pl: 0.75 },
      }}
    >
      <span>by hand in</span>
      {number("Fades in, seconds", look.fade_in, " s", (fade_in) => patch({ fade_in }))}
      <span>out</span>
      {number("Fades out, seconds", look.fade_out, " s", (fade_out) => patch({ fade_out }))}
      <span title="Of all its lines, until it is moved again">speed</span>
      {number("Speed of the look, percent", speed * 100, " %", (percent) =>
        typeHandle(`look/${look.id}/speed`, percent / 100),
      )}
      <Box sx={{ pl: 0.75 }}>
        <Tint of="the look" hue={hue} amount={amount} at={`look/${look.id}/`} />
      </Box>
      <span>folder</span>
      <Typed
        quiet
        width={96}
        label="Folder of the look"
        placeholder="none"
        value={look.folder}
        onCommit={(folder) => patch({ folder })}
      />
      <Box sx={{ flex: "1 1 140px", minWidth: 120 }}>
        <Typed
          quiet
          label="Note of the look"
          placeholder="a note"
          value={look.note}
          onCommit={(note) => patch({ note })}
        />
      </Box>
      {look.note.length > 40 && <Cap sx={{ width: "100%", px: 0.75 }}>{look.note}</Cap>}
    </Box>
  );
}
