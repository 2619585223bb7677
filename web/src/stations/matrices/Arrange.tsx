import { Box, Button, MenuItem, Select } from "@mui/material";
import { useState } from "react";
import { answer, client, type Fault, type MatrixView, type Schemas, type WholeShow } from "../../api/client";
import { download } from "../../api/download";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, FaultNote } from "../../components/atoms";
import { notify } from "../../stores/notices";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import type { Square } from "./MatrixGrid";

type Change = Partial<Schemas["Arrange"]> & { do: Schemas["Arrange"]["do"] };

interface ArrangeProps {
  show: WholeShow;
  matrix: MatrixView;
  cursor: Square | null;
}

const OWN = "its own";

/** Work on the matrix as a whole: mirror, move the line under the cursor, gaps, a copy, squares as numbers. */
export function Arrange({ show, matrix, cursor }: ArrangeProps) {
  const edit = useEdit();
  const [fault, setFault] = useState<Fault | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const params = { path: { matrix_id: matrix.id } };
  const run = (change: Change) => {
    setFault(null);
    const body: Schemas["Arrange"] = { axis: "left to right", line: "row", index: 0, by: 1, ...change };
    return edit(() => answer(client.POST("/api/matrices/{matrix_id}/arrange", { params, body })), setFault);
  };
  const copy = async () => {
    const body = { id: newId(), name: `${matrix.name} copy`.slice(0, 120) };
    if (await edit(() => answer(client.POST("/api/matrices/{matrix_id}/copy", { params, body })), setFault))
      useView.setState({ matrix: body.id });
  };
  const share = (like: string | null) => {
    setFault(null);
    return edit(
      () => answer(client.POST("/api/matrices/{matrix_id}/share", { params, body: { like } })),
      setFault,
    );
  };
  const place = async () => {
    setFault(null);
    const body = { text: typed ?? "", at: cursor ?? ([0, 0] as Square) };
    if (
      await edit(() => answer(client.POST("/api/matrices/{matrix_id}/squares", { params, body })), setFault)
    )
      setTyped(null);
  };
  const [column, row] = cursor ?? [0, 0];
  const none = !cursor;
  const step = (label: string, sign: string, change: Change) => (
    <Button aria-label={label} title={label} disabled={none} onClick={() => void run(change)} sx={STEP}>
      {sign}
    </Button>
  );
  return (
    <Box
      role="group"
      aria-label="Arrange"
      sx={{ px: 2, py: 1, borderBottom: `1px solid ${ink.hair}`, background: ink.panel, fontSize: 13 }}
    >
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, rowGap: 0.75, alignItems: "center" }}>
        <Button onClick={() => void run({ do: "mirror" })}>Mirror left to right</Button>
        <Button onClick={() => void run({ do: "mirror", axis: "top to bottom" })}>
          Mirror top to bottom
        </Button>
        <Button onClick={() => void copy()}>Copy</Button>
        <Button aria-pressed={typed !== null} onClick={() => setTyped(typed === null ? "" : null)}>
          Type squares
        </Button>
        <Button
          onClick={() => void download(`/api/matrices/${matrix.id}/squares.csv`, "squares.csv").catch(notify)}
        >
          Squares as CSV
        </Button>
        <Button
          onClick={() => void download(`/api/matrices/${matrix.id}/squares.svg`, "squares.svg").catch(notify)}
        >
          as SVG
        </Button>
        {show.matrices.length > 1 && (
          <Box
            sx={{
              display: "flex",
              alignItems: "center",
              gap: 0.75,
              ml: 1,
              "& .MuiSelect-select": { py: 0.25, fontSize: 13 },
            }}
          >
            <Cap>arrangement</Cap>
            <Select
              variant="standard"
              value={matrix.shares || OWN}
              inputProps={{ "aria-label": "Arrangement" }}
              onChange={(event) => void share(event.target.value === OWN ? null : event.target.value)}
            >
              <MenuItem value={OWN}>its own</MenuItem>
              {show.matrices
                .filter((one) => one.id !== matrix.id && (!one.shares || one.shares !== matrix.id))
                .map((one) => (
                  <MenuItem key={one.id} value={one.id}>
                    that of {one.name}
                  </MenuItem>
                ))}
            </Select>
          </Box>
        )}
      </Box>
      <Box
        sx={{ display: "flex", flexWrap: "wrap", gap: 0.75, rowGap: 0.75, alignItems: "center", mt: 0.75 }}
      >
        {none ? <Cap>Choose a square for its row and column:</Cap> : <span>row {row + 1}</span>}
        {step("Row to the left", "‹", { do: "shift", line: "row", index: row, by: -1 })}
        {step("Row to the right", "›", { do: "shift", line: "row", index: row, by: 1 })}
        {step("Insert a row here", "insert", { do: "open gap", line: "row", index: row })}
        {step("Take this empty row out", "take out", { do: "close gap", line: "row", index: row })}
        <span style={{ marginLeft: 12 }}>{none ? "" : `column ${column + 1}`}</span>
        {step("Column up", "∧", { do: "shift", line: "column", index: column, by: -1 })}
        {step("Column down", "∨", { do: "shift", line: "column", index: column, by: 1 })}
        {step("Insert a column here", "insert", { do: "open gap", line: "column", index: column })}
        {step("Take this empty column out", "take out", { do: "close gap", line: "column", index: column })}
      </Box>
      {typed !== null && (
        <Box sx={{ mt: 1, display: "flex", gap: 1, alignItems: "flex-start" }}>
          <Box
            component="textarea"
            aria-label="Squares as numbers"
            placeholder={"101:1, 101:2, 101:3\n102:1, 102:2, -"}
            value={typed}
            rows={4}
            onChange={(event: React.ChangeEvent<HTMLTextAreaElement>) => setTyped(event.target.value)}
            sx={{
              flex: 1,
              font: `500 12.5px ${mono}`,
              color: ink.text,
              background: ink.ground,
              border: `1px solid ${ink.hair2}`,
              borderRadius: "4px",
              p: 0.75,
            }}
          />
          <Box sx={{ width: 190 }}>
            <Button color="primary" disabled={!typed.trim()} onClick={() => void place()}>
              Place from column {column + 1}, row {row + 1}
            </Button>
            <Cap sx={{ mt: 0.5, lineHeight: "16px" }}>
              Rows of numbers, by comma or tab; an empty square stays as it is, - clears it.
            </Cap>
          </Box>
        </Box>
      )}
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
    </Box>
  );
}

const STEP = { minWidth: 30, px: 1 } as const;
