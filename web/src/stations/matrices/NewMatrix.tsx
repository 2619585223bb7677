import { Box, Button, MenuItem, Select } from "@mui/material";
import { useState } from "react";
import { answer, client, type Fault, isFault, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { sendForm } from "../../api/sendForm";
import { refreshShow } from "../../api/show";
import { Cap, FaultNote } from "../../components/atoms";
import { Field } from "../../components/Field";
import { FileChooser } from "../../components/FileChooser";
import { say } from "../../stores/notices";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";

interface NewMatrixProps {
  show: WholeShow;
  onEmpty: () => void;
  onDone: () => void;
}

type Made = Schemas["MadeMatrix"];

/** Ways to begin a matrix: empty, from where the cells are on the plan, from a drawing. */
export function NewMatrix({ show, onEmpty, onDone }: NewMatrixProps) {
  const plans = show.plans.filter((one) => one.items.some((item) => item.kind === "fixture"));
  const [plan, setPlan] = useState(plans[0]?.id ?? "");
  const [cells, setCells] = useState("all");
  const [square, setSquare] = useState("");
  const [fault, setFault] = useState<Fault | null>(null);
  const make = async (id: string, run: () => Promise<Made>) => {
    setFault(null);
    try {
      const made = await run();
      await refreshShow();
      useView.setState({ matrix: id });
      const free = made.free ? `, ${made.free} between squares` : "";
      const left = made.left_out ? `, ${made.left_out} had no place` : "";
      say(`${made.width} × ${made.height}, ${made.cells} cells${free}${left}`);
      onDone();
    } catch (wrong) {
      if (!isFault(wrong)) throw wrong;
      setFault(wrong);
    }
  };
  const fromPlan = () => {
    const id = newId();
    const metres = Number.parseFloat(square.replace(",", "."));
    const body = {
      id,
      name: plans.find((one) => one.id === plan)?.name ?? "From the plan",
      plan,
      selection: cells,
      square: metres > 0 ? metres : null,
    };
    return make(id, async () => (await answer(client.POST("/api/matrices/from-plan", { body }))) as Made);
  };
  const asLine = () => {
    const id = newId();
    const body = { id, selection: cells };
    return make(id, async () => (await answer(client.POST("/api/matrices/line", { body }))) as Made);
  };
  const fromDrawing = (file: File) => {
    const id = newId();
    const name = file.name.replace(/\.svg$/i, "").slice(0, 120) || "Drawing";
    return make(id, () => sendForm<Made>("/api/matrices/svg", { id, name, selection: cells, file }));
  };
  return (
    <Box
      role="group"
      aria-label="New matrix"
      sx={{
        px: 1.5,
        pb: 1.5,
        display: "flex",
        flexDirection: "column",
        gap: 0.75,
        borderBottom: `1px solid ${ink.brassSoft}`,
        background: ink.panel,
        "& .MuiSelect-select": { py: 0.25, fontSize: 13 },
      }}
    >
      <Cap>cells</Cap>
      <Field width="100%" label="Cells of the new matrix" value={cells} onChange={setCells} />
      <Button color="primary" onClick={onEmpty}>
        Empty, to be woven
      </Button>
      <Button onClick={() => void asLine()}>As one line</Button>
      {plans.length > 0 && (
        <>
          <Cap sx={{ mt: 0.5 }}>from the plan</Cap>
          <Select
            variant="standard"
            value={plan}
            inputProps={{ "aria-label": "Plan" }}
            onChange={(event) => setPlan(event.target.value)}
          >
            {plans.map((one) => (
              <MenuItem key={one.id} value={one.id}>
                {one.name}
              </MenuItem>
            ))}
          </Select>
          <Box sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
            <Field
              width={64}
              label="Metres a square"
              placeholder="found"
              value={square}
              onChange={setSquare}
            />
            <Cap>m a square</Cap>
          </Box>
          <Button onClick={() => void fromPlan()}>As on the plan</Button>
        </>
      )}
      <Cap sx={{ mt: 0.5 }}>from a drawing</Cap>
      <FileChooser
        label="Drawing (SVG)"
        accept=".svg,image/svg+xml"
        onFiles={([file]) => file && fromDrawing(file)}
      >
        From an SVG file
      </FileChooser>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
    </Box>
  );
}
