import { Box, Button, Switch } from "@mui/material";
import { useState } from "react";
import { answer, client, type OutputView, problemOf, type Schemas } from "../../api/client";
import { refreshShow, useEdit } from "../../api/show";
import { Cap, FaultNote, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import type { OutputStats } from "../../stores/live";
import { ink } from "../../theme/tokens";
import { type OutputPatch, OutputSettings } from "./OutputSettings";

interface OutputProps {
  output: OutputView;
  index: number;
  stats: OutputStats | undefined;
  reach: Schemas["OutputReach"] | undefined;
}

/** One output in three short sentences, and whether its node answers and listens; its settings open in place. */
export function OutputRow({ output, index, stats, reach }: OutputProps) {
  const edit = useEdit();
  const [open, setOpen] = useState(false);
  const patch = async (body: OutputPatch): Promise<string> => {
    const problem = await problemOf(() =>
      answer(client.PATCH("/api/outputs/{output_id}", { params, body: { ...body, rev: output.rev } })),
    );
    await refreshShow();
    return problem;
  };
  const params = { path: { output_id: output.id } };
  const remove = () => edit(() => answer(client.DELETE("/api/outputs/{output_id}", { params })));
  const [first = "", ...rest] = output.sentences;
  return (
    <Box
      role="group"
      aria-label={`Output ${index}`}
      sx={{
        borderTop: `1px solid ${ink.hair}`,
        px: 2,
        py: 1,
        display: "grid",
        gridTemplateColumns: "20px 1fr",
      }}
      onKeyDown={(event: React.KeyboardEvent) => {
        if (event.key === "Escape" && open && event.target === event.currentTarget) setOpen(false);
      }}
    >
      <Num style={{ color: ink.soft, lineHeight: "26px" }}>{index}</Num>
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, ml: -0.75, minWidth: 0 }}>
        <Box sx={{ flex: 1, minWidth: 0, "& input": { fontWeight: 600 } }}>
          <Typed
            quiet
            label={`Name of output ${index}`}
            value={output.name}
            onCommit={(name) => patch({ name })}
          />
        </Box>
        <Button
          size="small"
          aria-pressed={output.mute}
          title="Goes on sending, with nothing lit; lasers at their safe values"
          disabled={!output.on}
          onClick={() => patch({ mute: !output.mute })}
          sx={{ minWidth: 0, color: output.mute && output.on ? ink.brass : ink.soft }}
        >
          {output.mute ? "Muted" : "Mute"}
        </Button>
        <Switch
          checked={output.on}
          slotProps={{ input: { "aria-label": `${output.name} on` } }}
          onChange={(_, on) => patch({ on })}
        />
        <Box sx={{ width: 22, fontSize: 13, color: output.on ? ink.sea : ink.soft }}>
          {output.on ? "On" : "Off"}
        </Box>
      </Box>
      <span />
      <Box
        component="button"
        aria-expanded={open}
        title={open ? "Close its settings" : "Change it"}
        onClick={() => setOpen(!open)}
        sx={{
          display: "grid",
          gridTemplateColumns: "1fr 14px",
          textAlign: "left",
          font: "inherit",
          color: output.on ? ink.text : ink.soft,
          background: "none",
          border: 0,
          p: 0,
          cursor: "pointer",
          borderRadius: "4px",
          "&:hover": { background: ink.row },
        }}
      >
        <Box component="span" sx={{ fontSize: 13, lineHeight: "18px" }}>
          {first}
        </Box>
        <svg width="10" height="10" viewBox="0 0 10 10" aria-hidden="true" style={{ marginTop: 5 }}>
          <path d={open ? "M1 7l4-4 4 4" : "M1 3l4 4 4-4"} fill="none" stroke={ink.soft} strokeWidth="1.4" />
        </svg>
        {rest.map((sentence) => (
          <Cap key={sentence} as="span" sx={{ gridColumn: 1 }}>
            {sentence}
          </Cap>
        ))}
      </Box>
      {reach?.says && (
        <>
          <span />
          <Said state={reach.state} says={reach.says} />
        </>
      )}
      {stats?.last_error && (
        <>
          <span />
          <FaultNote
            what={`Sending fails: ${stats.last_error} (${stats.errors} packets).`}
            repair="Is the network card still there and the cable in? It is tried again every second."
          />
        </>
      )}
      {open && (
        <Box sx={{ gridColumn: "1 / -1", pt: 0.5 }}>
          <OutputSettings output={output} patch={patch} />
          <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
            <Cap>
              {stats
                ? `${stats.packets.toLocaleString("en-US").replaceAll(",", " ")} packets sent`
                : "not sending"}
            </Cap>
            <Button variant="text" sx={{ ml: "auto", color: ink.soft }} onClick={remove}>
              Delete
            </Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}

const SIGNS: Record<string, string> = {
  heard: "M2.5 7.5 6 11l6.5-7",
  "not heard": "M2 5v5h3l4 3V2L5 5zM11 6l3 3M14 6l-3 3",
  silent: "M7.5 1.5 14 13.5H1ZM7.5 6v3.6M7.5 11v1",
  unknown: "M5 5.5a2.5 2.5 0 1 1 3.4 2.3c-.9.4-.9 1-.9 1.7M7.5 11.5v1",
};

/** Whether its node answers and listens: a sign and a sentence. */
function Said({ state, says }: { state: string; says: string }) {
  const colour = state === "heard" ? ink.sea : state === "unknown" ? ink.soft : ink.brass;
  return (
    <Box sx={{ display: "flex", gap: 0.75, color: colour, fontSize: 12.5, lineHeight: "17px", py: "2px" }}>
      <svg
        width="13"
        height="13"
        viewBox="0 0 15 15"
        aria-hidden="true"
        style={{ flex: "none", marginTop: 2 }}
      >
        <path d={SIGNS[state]} fill="none" stroke="currentColor" strokeWidth="1.4" />
      </svg>
      {says}
    </Box>
  );
}
