import { Box, Button } from "@mui/material";
import { useState } from "react";
import {
  answer,
  client,
  type FixtureView,
  problemOf,
  type Schemas,
  type WholeShow,
} from "../../../api/client";
import { newId } from "../../../api/person";
import { refreshShow } from "../../../api/show";
import { Cap, Chip, FaultNote, OneLine, Part } from "../../../components/atoms";
import { ColourChooser } from "../../../components/ColourChooser";
import { Typed } from "../../../components/Typed";
import type { Rgb } from "../../../model/values";
import { ink } from "../../../theme/tokens";
import { PresetMark } from "./PresetMark";
import { PresetTable } from "./PresetTable";

type Preset = Schemas["PresetView"];
type Kind = Preset["kind"];

/** What the chooser of a colour sets; everything else stands beneath it and stays. */
const IN_CHOOSER = ["ColorAdd_R", "ColorAdd_G", "ColorAdd_B"];

const KINDS: Kind[] = ["position", "colour", "beam", "laser"];

/** Named values: taken from what is held by hand of the chosen fixtures, and given to them. */
export function PresetsPart({ chosen, show }: { chosen: FixtureView[]; show: WholeShow }) {
  const [fault, setFault] = useState("");
  const [opened, setOpened] = useState("");
  const [pasting, setPasting] = useState(false);
  const ids = chosen.map((one) => one.id);
  const run = async (what: () => Promise<unknown>) => {
    const problem = await problemOf(what);
    setFault(problem);
    await refreshShow();
    return problem;
  };
  const take = (kind: Kind) => {
    const body = { id: newId(), kind, folder: "", sets: {}, kept: {}, take: ids };
    return run(() => answer(client.POST("/api/presets", { body })));
  };
  const change = (one: Preset, body: Schemas["PresetPatch"]) =>
    run(() =>
      answer(
        client.PATCH("/api/presets/{preset_id}", {
          params: { path: { preset_id: one.id } },
          body: { ...body, rev: one.rev },
        }),
      ),
    );
  const hold = (one: Preset) =>
    run(() =>
      answer(
        client.POST("/api/presets/{preset_id}/hold", {
          params: { path: { preset_id: one.id } },
          body: { chosen: ids },
        }),
      ),
    );
  const remove = (one: Preset) =>
    run(() => answer(client.DELETE("/api/presets/{preset_id}", { params: { path: { preset_id: one.id } } })));
  const folders = [...new Set(show.presets.map((one) => one.folder))].sort();
  return (
    <Part role="group" aria-label="Presets">
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.75, flexWrap: "wrap", mb: 1 }}>
        <Box sx={{ fontWeight: 600, mr: 0.5 }}>Presets</Box>
        <Cap>take from by hand</Cap>
        {KINDS.map((kind) => (
          <Chip key={kind} aria-label={`Take a preset of ${kind}`} onClick={() => void take(kind)}>
            {kind}
          </Chip>
        ))}
        <Button
          variant="text"
          sx={{ ml: "auto", px: 0.75 }}
          aria-expanded={pasting}
          onClick={() => setPasting(!pasting)}
        >
          Paste colours
        </Button>
      </Box>
      {pasting && <PresetTable onDone={() => setPasting(false)} />}
      {fault && <FaultNote what={fault} />}
      {show.presets.length === 0 && !pasting && (
        <Cap>
          A name for a position, a colour or a beam: set it by hand, then take it. Lines of looks refer to it.
        </Cap>
      )}
      {folders.map((folder) => (
        <Box key={folder} sx={{ mb: 0.75 }}>
          {folder && <Cap sx={{ mb: 0.25 }}>{folder}</Cap>}
          {show.presets
            .filter((one) => one.folder === folder)
            .map((one) => (
              <Box key={one.id} sx={{ borderTop: `1px solid ${ink.hair}`, py: 0.5 }}>
                <Box
                  sx={{
                    display: "grid",
                    gridTemplateColumns: "18px 1fr auto auto",
                    gap: 1,
                    alignItems: "center",
                  }}
                >
                  <PresetMark preset={one} />
                  <Box sx={{ minWidth: 0 }}>
                    <OneLine sx={{ fontSize: 13.5 }}>{one.name}</OneLine>
                    <OneLine sx={{ fontSize: 12, color: ink.soft }} title={one.says}>
                      {one.says}
                    </OneLine>
                  </Box>
                  <Button aria-label={`Set ${one.name}`} onClick={() => void hold(one)}>
                    Set
                  </Button>
                  <Button
                    variant="text"
                    sx={{ px: 0.75, minWidth: 0 }}
                    aria-label={`More of ${one.name}`}
                    aria-expanded={opened === one.id}
                    onClick={() => setOpened(opened === one.id ? "" : one.id)}
                  >
                    …
                  </Button>
                </Box>
                {opened === one.id && (
                  <Box sx={{ display: "grid", gap: 0.75, pl: 3.25, py: 0.75 }}>
                    <Labelled label="name">
                      <Typed
                        label="Name of the preset"
                        value={one.name}
                        onCommit={(name) => change(one, { name })}
                      />
                    </Labelled>
                    <Labelled label="folder">
                      <Typed
                        label="Folder of the preset"
                        value={one.folder}
                        placeholder="none"
                        onCommit={(folder) => change(one, { folder })}
                      />
                    </Labelled>
                    {one.rgb && <PresetColour preset={one} onCommit={(sets) => change(one, { sets })} />}
                    {Object.entries(one.words)
                      .filter(([attribute]) => !(one.rgb && IN_CHOOSER.includes(attribute)))
                      .map(([attribute, word]) => (
                        <Labelled key={attribute} label={word}>
                          <Typed
                            numeric
                            label={`${word} of the preset`}
                            value={one.sets[attribute] ?? ""}
                            onCommit={(typed) => change(one, { sets: { [attribute]: typed } })}
                          />
                        </Labelled>
                      ))}
                    <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
                      <Button onClick={() => void change(one, { take: ids })}>Take anew</Button>
                      <Button variant="text" onClick={() => void remove(one)}>
                        Delete
                      </Button>
                      <Cap>
                        {one.used_by.length ? `used by ${one.used_by.join(", ")}` : "no look uses it"}
                      </Cap>
                    </Box>
                  </Box>
                )}
              </Box>
            ))}
        </Box>
      ))}
    </Part>
  );
}

/** The colour of a preset: chosen, it moves red, green and blue; every further emitter stays and stands beneath. */
function PresetColour({
  preset,
  onCommit,
}: {
  preset: Preset;
  onCommit: (sets: Record<string, string>) => unknown;
}) {
  const [moving, setMoving] = useState<Rgb | null>(null);
  return (
    <ColourChooser
      label={`Colour of ${preset.name}`}
      rgb={moving ?? (preset.rgb as Rgb)}
      onMove={setMoving}
      onCommit={async ([red, green, blue]) => {
        await onCommit({ ColorAdd_R: `${red}`, ColorAdd_G: `${green}`, ColorAdd_B: `${blue}` });
        setMoving(null);
      }}
    />
  );
}

function Labelled({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "56px 1fr", gap: 1, alignItems: "center" }}>
      <Cap>{label}</Cap>
      {children}
    </Box>
  );
}
