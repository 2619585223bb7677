import { Box } from "@mui/material";
import { useState } from "react";
import {
  answer,
  client,
  type EffectView,
  type Fault,
  type LookView,
  type Schemas,
  type WholeShow,
} from "../../api/client";
import { useEdit } from "../../api/show";
import { Chip, FaultNote, Num } from "../../components/atoms";
import { type Layer, rampCss } from "../../model/layers";
import { saySpeed, toPercent } from "../../model/values";
import { endGesture, gesture } from "../../stores/live";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { LayerControl, type Opened } from "./LayerControl";

interface LineProps {
  show: WholeShow;
  look: LookView;
  layer: Layer;
  effects: EffectView[];
  place: number;
}

/** One layer as a line in words; a chip opens its control beneath the line. */
export function LayerLine({ show, look, layer: stored, effects, place }: LineProps) {
  const edit = useEdit();
  const on = useView((view) => view.layer === stored.id);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [moving, setMoving] = useState<Partial<Layer>>({});
  const [fault, setFault] = useState<Fault | null>(null);
  const layer: Layer = { ...stored, ...moving };
  const effect = effects.find((one) => one.name === layer.effect);
  const matrix = show.matrices.find((m) => m.id === layer.matrix);
  const clip = show.clips.find((one) => one.id === layer.clip);
  const params = { path: { look_id: look.id, layer_id: stored.id } };

  /** While a control moves: on the lamps at the next frame, not stored. */
  const move = (changes: Partial<Layer>) => {
    setMoving((before) => ({ ...before, ...changes }));
    gesture(look.id, stored.id, changes);
  };
  /** On release: stored once, one undo. */
  const commit = async (changes: Partial<Layer>) => {
    setFault(null);
    const body = { ...changes, rev: look.rev } as Schemas["LayerPatch"];
    await edit(
      () => answer(client.PATCH("/api/looks/{look_id}/layers/{layer_id}", { params, body })),
      setFault,
    );
    endGesture(look.id);
    setMoving({});
  };
  const remove = () =>
    edit(() => answer(client.DELETE("/api/looks/{look_id}/layers/{layer_id}", { params })));
  const chip = (what: Opened, text: React.ReactNode) => (
    <Chip
      active={opened === what}
      aria-expanded={opened === what}
      onClick={() => {
        useView.setState({ layer: stored.id });
        setOpened(opened === what ? null : what);
      }}
    >
      {text}
    </Chip>
  );

  return (
    <Box
      role="group"
      aria-label={`Line ${place}`}
      onPointerDown={() => useView.setState({ layer: stored.id })}
      sx={{
        borderBottom: `1px solid ${ink.hair}`,
        background: on ? `linear-gradient(90deg, ${ink.brassGround}, transparent 70%)` : "none",
        boxShadow: on ? `inset 3px 0 ${ink.brass}` : "none",
        px: 2,
        py: 1.4,
      }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: "18px 1fr auto", gap: 1.5 }}>
        <Box sx={{ font: `500 13px ${mono}`, color: ink.faint, pt: 0.5, textAlign: "right" }}>{place}</Box>
        <Box sx={{ fontSize: 14.5, lineHeight: "29px", opacity: layer.mute ? 0.5 : 1 }}>
          {layer.paints === "clip" ? (
            <>
              {chip("clip", <>clip {clip?.name ?? "that is gone"}</>)} looped over{" "}
              {chip("matrix", matrix?.name ?? "no matrix")}
            </>
          ) : (
            <>
              {chip("effect", <b>{layer.effect}</b>)} in{" "}
              {chip(
                "ramp",
                <>
                  <Box
                    component="span"
                    sx={{ width: 44, height: 9, borderRadius: "4px", background: rampCss(layer.ramp) }}
                  />
                  {layer.ramp.length === 1 ? "one colour" : `${layer.ramp.length} colours`}
                </>,
              )}{" "}
              over {chip("matrix", matrix?.name ?? "no matrix")}
              {effect?.moves && (
                <>
                  {" "}
                  every {chip("speed", <Num>{saySpeed(layer.speed)}</Num>)}{" "}
                  <Chip
                    onClick={() =>
                      commit({ direction: layer.direction === "forward" ? "backward" : "forward" })
                    }
                  >
                    {layer.direction}
                  </Chip>
                </>
              )}
              {effect?.parameters.map((parameter) => (
                <span key={parameter.name}>
                  {" "}
                  {parameter.name}{" "}
                  {chip(
                    `param ${parameter.name}`,
                    <Num>{String(layer.params[parameter.name] ?? parameter.default)}</Num>,
                  )}
                </span>
              ))}
            </>
          )}
        </Box>
        <Box sx={{ textAlign: "right", lineHeight: "26px", whiteSpace: "nowrap" }}>
          {chip("opacity", <Num>{toPercent(layer.opacity)} %</Num>)}{" "}
          <Chip
            aria-label={`Blend ${layer.blend}`}
            onClick={() => commit({ blend: layer.blend === "over" ? "add" : "over" })}
          >
            {layer.blend}
          </Chip>{" "}
          <Chip aria-pressed={layer.mute} onClick={() => commit({ mute: !layer.mute })}>
            {layer.mute ? "muted" : "mute"}
          </Chip>{" "}
          <Chip aria-label={`Delete line ${place}`} onClick={remove}>
            ×
          </Chip>
        </Box>
      </Box>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      {opened && (
        <LayerControl
          show={show}
          layer={layer}
          effects={effects}
          opened={opened}
          onMove={move}
          onCommit={commit}
        />
      )}
    </Box>
  );
}
