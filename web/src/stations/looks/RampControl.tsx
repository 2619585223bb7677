import { Box, Button } from "@mui/material";
import { useState } from "react";
import { answer, client, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, Chip } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { type Line, rampCss } from "../../model/lines";
import { RampEditor } from "./RampEditor";
import { RibbonControl } from "./RibbonControl";
import type { LineEdits } from "./useLineEdits";

interface RampControlProps {
  look: string;
  show: WholeShow;
  line: Line;
  edits: LineEdits;
}

/** The colours of a line: its own, or a saved ramp that several lines share. */
export function RampControl({ look, show, line, edits }: RampControlProps) {
  const [chosen, setChosen] = useState(0);
  const edit = useEdit();
  const saved = show.ramps.find((ramp) => ramp.id === line.saved_ramp);
  const save = async () => {
    const id = newId();
    const body = { id, name: `Ramp ${show.ramps.length + 1}`, stops: line.ramp };
    if (await edit(() => answer(client.POST("/api/ramps", { body })))) await edits.commit({ saved_ramp: id });
  };
  return (
    <Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
        {saved ? (
          <>
            <Box sx={{ width: 190, ml: -0.75, "& input": { fontWeight: 600 } }}>
              <Typed
                quiet
                label="Name of the ramp"
                value={saved.name}
                onCommit={(name) =>
                  edit(() =>
                    answer(
                      client.PATCH("/api/ramps/{ramp_id}", {
                        params: { path: { ramp_id: saved.id } },
                        body: { name, rev: saved.rev },
                      }),
                    ),
                  )
                }
              />
            </Box>
            <Cap sx={{ ml: "auto" }}>
              {saved.used_by === 1 ? "used by this line" : `used by ${saved.used_by} lines: all follow`}
            </Cap>
            <Button onClick={() => edits.commit({ saved_ramp: "", ramp: line.ramp })}>Only here</Button>
          </>
        ) : (
          <>
            <Cap>colours of this line alone</Cap>
            <Button sx={{ ml: "auto" }} onClick={save}>
              Save as a ramp
            </Button>
          </>
        )}
      </Box>
      <RampEditor
        stops={line.ramp}
        onMove={edits.moveRamp}
        onCommit={edits.commitRamp}
        onChoose={setChosen}
      />
      <RibbonControl look={look} line={line} stop={Math.min(chosen, line.ramp.length - 1)} edits={edits} />
      {show.ramps.length > 0 && (
        <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center", mt: 1.25 }}>
          <Cap>saved:</Cap>
          {show.ramps.map((ramp) => (
            <Chip
              key={ramp.id}
              active={ramp.id === saved?.id}
              aria-pressed={ramp.id === saved?.id}
              onClick={() => ramp.id !== saved?.id && edits.commit({ saved_ramp: ramp.id })}
            >
              <Box
                component="span"
                sx={{
                  width: 36,
                  height: 9,
                  borderRadius: "4px",
                  background: rampCss(ramp.stops),
                }}
              />
              {ramp.name}
            </Chip>
          ))}
        </Box>
      )}
    </Box>
  );
}
