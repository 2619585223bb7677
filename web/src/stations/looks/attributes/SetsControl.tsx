import { Box, Button } from "@mui/material";
import { useState } from "react";
import { answer, client, type LookView, problemOf, type WholeShow } from "../../../api/client";
import { newId } from "../../../api/person";
import { refreshShow } from "../../../api/show";
import { Cap, Chip, FaultNote, Swatch } from "../../../components/atoms";
import { canvasOf } from "../../../model/canvases";
import type { AttributeLine } from "../../../model/lines";
import type { Opened } from "../LineControl";
import type { LineEdits } from "../useLineEdits";
import { useAttributes, usePaths } from "./useAttributes";

interface SetsProps {
  show: WholeShow;
  look: LookView;
  line: AttributeLine;
  edits: LineEdits;
  onOpen: (what: Opened) => void;
}

/** Everything a line can set: presets to stand at, attributes to type, ready paths to move along. */
export function SetsControl({ show, look, line, edits, onOpen }: SetsProps) {
  const { attributes } = useAttributes(look, line);
  const paths = usePaths();
  const [fault, setFault] = useState("");
  const has = (name: string) => attributes.some((one) => one.attribute === name);
  const stands =
    "Pan" in line.params ||
    line.presets.some((id) => show.presets.find((one) => one.id === id)?.kind === "position");
  const nothing = !line.presets.length && !Object.keys(line.params).length && !Object.keys(line.kept).length;
  const moves = "params.Pan" in line.drives || "params.Tilt" in line.drives;
  const run = async (what: () => Promise<unknown>) => {
    setFault(await problemOf(what));
    await refreshShow();
  };
  const params = { path: { look_id: look.id, line_id: line.id } };
  const toggle = (id: string) => {
    const presets = line.presets.includes(id)
      ? line.presets.filter((one) => one !== id)
      : [...line.presets, id];
    return edits.commit({ presets });
  };
  const take = () =>
    run(async () => {
      const id = newId();
      const canvas = canvasOf(show, line);
      const selection = line.selection || canvas?.name || "all";
      const body = { id, kind: "position" as const, folder: "", sets: {}, kept: {}, take: selection };
      await answer(client.POST("/api/presets", { body }));
      await answer(
        client.PATCH("/api/looks/{look_id}/lines/{line_id}", {
          params,
          body: { presets: [...line.presets, id] },
        }),
      );
    });
  return (
    <Box sx={{ display: "grid", gap: 1.25 }}>
      {show.presets.length > 0 && (
        <Row label="presets">
          {show.presets.map((one) => (
            <Chip
              key={one.id}
              active={line.presets.includes(one.id)}
              aria-pressed={line.presets.includes(one.id)}
              title={`${one.kind}: ${one.says}`}
              onClick={() => void toggle(one.id)}
            >
              {one.rgb && <Swatch rgb={one.rgb} />}
              {one.name}
            </Chip>
          ))}
        </Row>
      )}
      <Row label="attributes">
        {attributes.map((one) => (
          <Chip
            key={one.attribute}
            active={one.attribute in line.params}
            title={one.takes}
            onClick={() => onOpen(`set ${one.attribute}`)}
          >
            {one.word}
          </Chip>
        ))}
        {attributes.length === 0 && <Cap>Nothing of what it is over has an attribute that can be set.</Cap>}
      </Row>
      {has("Pan") && has("Tilt") && (
        <Row label="moves along">
          {paths.map((one) => (
            <Chip
              key={one.name}
              title={one.says}
              onClick={() =>
                void run(() =>
                  answer(
                    client.POST("/api/looks/{look_id}/lines/{line_id}/path", {
                      params,
                      body: { path: one.name, rev: look.rev },
                    }),
                  ),
                )
              }
            >
              {one.name}
            </Chip>
          ))}
          {moves && (
            <Button
              variant="text"
              onClick={() => void edits.type({ drives: { "params.Pan": null, "params.Tilt": null } })}
            >
              Stand still
            </Button>
          )}
        </Row>
      )}
      {(has("Pan") || has("Tilt")) && !stands && (moves || nothing) && (
        <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
          <Cap>
            {moves
              ? "It moves about where the heads rest, straight ahead."
              : "The heads have no position here yet."}{" "}
            Point them by hand, then
          </Cap>
          <Chip onClick={() => void take()}>make a position of that</Chip>
        </Box>
      )}
      {fault && <FaultNote what={fault} />}
    </Box>
  );
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "84px 1fr", gap: 1 }}>
      <Cap sx={{ lineHeight: "24px" }}>{label}</Cap>
      <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center" }}>{children}</Box>
    </Box>
  );
}
