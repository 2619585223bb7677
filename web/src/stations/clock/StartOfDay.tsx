import { Box } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas, type WholeShow } from "../../api/client";
import { Cap, FaultNote, Part } from "../../components/atoms";
import { ink } from "../../theme/tokens";
import { useStartOfDay } from "./useClock";

/** Which show opens and what runs when this machine is switched on. */
export function StartOfDay({ show }: { show: WholeShow }) {
  const { chosen, choose } = useStartOfDay();
  const [wrong, setWrong] = useState("");
  const shows = useQuery({
    queryKey: ["shows"],
    queryFn: async () => (await answer(client.GET("/api/shows"))) as Schemas["ShowInfo"][],
  });
  if (!chosen) return null;
  const { show: opens = "", runs = "last" } = chosen;
  const here = !opens || opens === show.show.id;
  const starts = here
    ? [
        ...show.cue_lists.map((one) => [`list/${one.id}/go`, `${one.name}, from its first cue`] as const),
        ...show.scores.map((one) => [`score/${one.id}/start`, `${one.name}, from bar 1`] as const),
      ]
    : [];
  const set = (body: Schemas["StartOfDay"]) => void choose(body).then(setWrong);
  return (
    <Part role="group" aria-label="When this machine is switched on">
      <b style={{ fontWeight: 600 }}>When this machine is switched on</b>
      <Box sx={{ display: "grid", gridTemplateColumns: "72px 1fr", gap: 1, mt: 1, alignItems: "center" }}>
        <Cap>opens</Cap>
        <Select
          label="Show that opens"
          value={opens}
          options={[
            ["", "the show that was open last"],
            ...(shows.data ?? []).map((one) => [one.id, one.name] as const),
          ]}
          onChange={(value) => set({ show: value, runs: ["last", "nothing"].includes(runs) ? runs : "last" })}
        />
        <Cap>runs</Cap>
        <Select
          label="What runs then"
          value={runs}
          options={[["last", "the last state"], ["nothing", "nothing, until somebody goes"], ...starts]}
          onChange={(value) => set({ show: opens, runs: value })}
        />
      </Box>
      {wrong && <FaultNote what={wrong} />}
      <Cap sx={{ mt: 1 }}>
        It counts for a start by the machine: ./heliograph service makes it start so. What the clock would
        have done by then is done too.
      </Cap>
    </Part>
  );
}

interface SelectProps {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}

function Select({ label, value, options, onChange }: SelectProps) {
  const known = options.some(([key]) => key === value);
  return (
    <Box
      component="select"
      aria-label={label}
      value={value}
      onChange={(event: React.ChangeEvent<HTMLSelectElement>) => onChange(event.target.value)}
      sx={{
        height: 30,
        minWidth: 0,
        font: "inherit",
        fontSize: 13.5,
        color: ink.text,
        background: ink.row,
        border: `1px solid ${ink.hair2}`,
        borderRadius: "4px",
      }}
    >
      {!known && <option value={value}>something that is gone</option>}
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </Box>
  );
}
