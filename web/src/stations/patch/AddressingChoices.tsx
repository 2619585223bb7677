import { Box, MenuItem, Select } from "@mui/material";
import { useState } from "react";
import type { Schemas, WholeShow } from "../../api/client";
import { Cap } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Field } from "../../components/Field";
import { readRuns, sayRuns } from "../../model/ports";
import { CORNERS, CornerButton, Count } from "../matrices/WeaveExtras";
import { portsOf, useReach } from "./useReach";

type Walk = Schemas["Walk"];
type Ports = Schemas["PortsBody"];

const LINE = { display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap", fontSize: 13 } as const;

export function firstWalk(show: WholeShow): Walk | null {
  const [matrix] = show.matrices;
  return matrix ? { matrix: matrix.id, corner: "top left", along: "rows", snake: 0 } : null;
}

interface WalkProps {
  show: WholeShow;
  walk: Walk;
  onChange: (walk: Walk) => void;
}

/** The way over a matrix that the strand shall take. */
export function WalkLine({ show, walk, onChange }: WalkProps) {
  return (
    <>
      <Cap>strand over</Cap>
      <Box sx={LINE}>
        <Select
          variant="standard"
          value={walk.matrix}
          inputProps={{ "aria-label": "Matrix of the strand" }}
          onChange={(event) => onChange({ ...walk, matrix: event.target.value })}
        >
          {show.matrices.map((matrix) => (
            <MenuItem key={matrix.id} value={matrix.id}>
              {matrix.name}
            </MenuItem>
          ))}
        </Select>
        from
        <Box sx={{ display: "flex", gap: 0.5 }}>
          {CORNERS.map((corner) => (
            <CornerButton
              key={corner}
              corner={corner}
              of="the strand"
              on={walk.corner === corner}
              onClick={() => onChange({ ...walk, corner })}
            />
          ))}
        </Box>
        along
        <Choices
          names={[
            ["rows", "rows"],
            ["columns", "columns"],
          ]}
          chosen={walk.along}
          onChoose={(along) => onChange({ ...walk, along })}
        />
        turning back every
        <Count
          label="Lines until the strand turns back"
          value={walk.snake}
          onChange={(snake) => onChange({ ...walk, snake })}
        />
      </Box>
      <span />
    </>
  );
}

interface PortsProps {
  show: WholeShow;
  ports: Ports | null;
  onChange: (ports: Ports) => void;
}

/** Ports by the universes they get: typed, or those of a node that is heard. */
export function PortsLine({ show, ports, onChange }: PortsProps) {
  const now = ports ?? { universes: [], every: 0 };
  const [text, setText] = useState<string | null>(null);
  const nodes = portsOf(useReach(show));
  return (
    <>
      <Cap>ports get</Cap>
      <Box sx={LINE}>
        <Field
          label="Universes of the ports"
          width={120}
          placeholder="7-10"
          value={text ?? sayRuns(now.universes)}
          onBlur={() => setText(null)}
          onChange={(next) => {
            setText(next);
            const universes = readRuns(next);
            if (universes) onChange({ ...now, universes });
          }}
        />
        with
        <Count
          label="Fixtures on a port"
          value={now.every}
          onChange={(every) => onChange({ ...now, every })}
        />
        fixtures each (0: spread evenly)
        {nodes.length > 0 && (
          <Choices
            names={nodes.map((node) => [
              node.universes.join(),
              `${node.name}, ${node.universes.length} ports`,
            ])}
            chosen={now.universes.join()}
            onChoose={(key) => {
              setText(null);
              onChange({ ...now, universes: key.split(",").map(Number) });
            }}
          />
        )}
      </Box>
      <span />
    </>
  );
}
