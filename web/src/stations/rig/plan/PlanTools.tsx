import { Box, Button } from "@mui/material";
import { answer, client, type PlanData, type Schemas, type WholeShow } from "../../../api/client";
import { sendForm } from "../../../api/sendForm";
import { useEdit } from "../../../api/show";
import { Cap, Chip, KeyCap } from "../../../components/atoms";
import { FileChooser } from "../../../components/FileChooser";
import { Typed } from "../../../components/Typed";
import type { PlanItem } from "../../../model/plan";
import { round } from "../../../model/values";
import { ink } from "../../../theme/tokens";
import { ChosenTools } from "./ChosenTools";
import type { Tool } from "./planView";

export interface ToolsProps {
  show: WholeShow;
  /** Next to the table: only what is needed to look at it. */
  beside: boolean;
  plan: PlanData;
  /** Items of the plan that are chosen. */
  chosen: PlanItem[];
  /** How many fixtures are chosen, placed or not. */
  fixtures: number;
  tool: Tool;
  snap: number;
  labels: boolean;
  onPlan: (id: string) => void;
  onAdd: () => void;
  onTool: (tool: Tool) => void;
  onSnap: (step: number) => void;
  onLabels: (on: boolean) => void;
  onFit: () => void;
  onPut: (items: PlanItem[], label: string, remove?: string[]) => unknown;
  /** What is chosen is arranged; the server works out where it comes to lie. */
  onArrange: (how: Schemas["Arrangement"]["arrange"]) => unknown;
}

/** Over the plan: which one, how it shows, and what can be done with what is chosen. */
export function PlanTools(props: ToolsProps) {
  return props.beside ? <LookTools {...props} /> : <AllTools {...props} />;
}

/** Beside the table: which plan, its grid and numbers. Everything else is at Plan. */
function LookTools(props: ToolsProps) {
  const { show, plan } = props;
  return (
    <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", px: 2, pb: 0.75, minHeight: 36 }}>
      {show.plans.length > 1 ? (
        show.plans.map((one) => (
          <Chip key={one.id} active={one.id === plan.id} onClick={() => props.onPlan(one.id)}>
            {one.name}
          </Chip>
        ))
      ) : (
        <Box
          title={plan.name}
          sx={{ fontWeight: 600, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
        >
          {plan.name}
        </Box>
      )}
      <Box sx={{ flex: 1 }} />
      <ViewTools {...props} />
      <FitButton {...props} />
    </Box>
  );
}

function ViewTools({ snap, labels, onSnap, onLabels }: ToolsProps) {
  return (
    <>
      <Cap>snap</Cap>
      <Typed
        numeric
        width={62}
        label="Snap, metres"
        value={snap ? `${snap} m` : "off"}
        onCommit={(text) => {
          const step = text.trim() === "off" ? 0 : Number.parseFloat(text.replace(",", "."));
          if (!(step >= 0 && step <= 100)) return "Metres, such as 0.5, or off.";
          return onSnap(step);
        }}
      />
      <Chip active={labels} aria-pressed={labels} onClick={() => onLabels(!labels)}>
        numbers
      </Chip>
    </>
  );
}

function FitButton({ onFit }: ToolsProps) {
  return (
    <Button onClick={onFit}>
      Fit <KeyCap>F</KeyCap>
    </Button>
  );
}

function AllTools(props: ToolsProps) {
  const { show, plan } = props;
  const edit = useEdit();
  const path = { plan_id: plan.id };
  const patch = (body: {
    name?: string;
    picture_width_m?: number;
    picture_height_m?: number;
    picture_x?: number;
    picture_y?: number;
  }) =>
    edit(() =>
      answer(client.PATCH("/api/plans/{plan_id}", { params: { path }, body: { ...body, rev: plan.rev } })),
    );
  return (
    <Box sx={{ px: 2, pb: 1, display: "grid", gap: 0.75, borderBottom: `1px solid ${ink.hair}` }}>
      <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap" }}>
        {show.plans.map((one) =>
          one.id === plan.id ? (
            <Typed
              key={one.id}
              width={150}
              label="Name of the plan"
              value={one.name}
              onCommit={(name) => (name.trim() ? patch({ name }) : "A plan has a name.")}
            />
          ) : (
            <Chip key={one.id} onClick={() => props.onPlan(one.id)}>
              {one.name}
            </Chip>
          ),
        )}
        <Button variant="text" onClick={props.onAdd}>
          Another plan
        </Button>
        <Box sx={{ flex: 1 }} />
        <ViewTools {...props} />
        {plan.picture ? (
          <>
            <Typed
              numeric
              width={104}
              label="Width of the picture, metres"
              value={`${plan.picture_width_m} m wide`}
              onCommit={(text) => {
                const width = Number.parseFloat(text.replace(",", "."));
                if (!(width > 0 && width <= 10_000)) return "How many metres the picture is wide.";
                const height = (width * plan.picture_height_m) / plan.picture_width_m;
                return patch({ picture_width_m: width, picture_height_m: height });
              }}
            />
            <Typed
              numeric
              width={118}
              label="Middle of the picture, metres to the right and up"
              value={`at ${round(plan.picture_x, 2)}, ${round(plan.picture_y, 2)} m`}
              onCommit={(text) => {
                const match = /^\s*(?:at\s+)?(-?\d+(?:\.\d+)?)\s*[,; ]\s*(-?\d+(?:\.\d+)?)\s*m?\s*$/i.exec(
                  text,
                );
                if (!match) return "Metres to the right and up, such as 4.5, -2.";
                return patch({ picture_x: Number(match[1]), picture_y: Number(match[2]) });
              }}
            />
            <Button
              variant="text"
              onClick={() =>
                void edit(() => answer(client.DELETE("/api/plans/{plan_id}/picture", { params: { path } })))
              }
            >
              No picture
            </Button>
          </>
        ) : (
          <FileChooser
            label="Picture behind the plan"
            accept="image/png,image/jpeg,image/webp"
            onFiles={([file]) => file && void edit(() => sendForm(`/api/plans/${plan.id}/picture`, { file }))}
          >
            Picture
          </FileChooser>
        )}
        <FitButton {...props} />
      </Box>
      <ChosenTools {...props} />
    </Box>
  );
}
