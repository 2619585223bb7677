import { Box, Button } from "@mui/material";
import { answer, client, type PlanData, type Schemas, type WholeShow } from "../../../api/client";
import { newId } from "../../../api/person";
import { sendForm } from "../../../api/sendForm";
import { useEdit } from "../../../api/show";
import { Cap, Chip, KeyCap } from "../../../components/atoms";
import { FileChooser } from "../../../components/FileChooser";
import { Typed } from "../../../components/Typed";
import type { PlanItem } from "../../../model/plan";
import { round } from "../../../model/values";
import { useLive } from "../../../stores/live";
import { ink } from "../../../theme/tokens";
import type { Tool } from "./PlanCanvas";

interface ToolsProps {
  show: WholeShow;
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
  const { show, plan, snap, labels } = props;
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
        <Cap>snap</Cap>
        <Typed
          numeric
          width={62}
          label="Snap, metres"
          value={snap ? `${snap} m` : "off"}
          onCommit={(text) => {
            const step = text.trim() === "off" ? 0 : Number.parseFloat(text.replace(",", "."));
            if (!(step >= 0 && step <= 100)) return "Metres, such as 0.5, or off.";
            return props.onSnap(step);
          }}
        />
        <Chip active={labels} aria-pressed={labels} onClick={() => props.onLabels(!labels)}>
          numbers
        </Chip>
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
        <Button onClick={props.onFit}>
          Fit <KeyCap>F</KeyCap>
        </Button>
      </Box>
      <ChosenTools {...props} />
    </Box>
  );
}

type Edge = Schemas["Aligned"]["edge"];

const ALIGN: [Edge, string][] = [
  ["left", "left"],
  ["centre", "centre"],
  ["right", "right"],
  ["top", "top"],
  ["middle", "middle"],
  ["bottom", "bottom"],
];

function ChosenTools({ plan, chosen, fixtures, tool, onTool, onPut, onArrange }: ToolsProps) {
  const nodes = useLive((live) => live.receiver?.nodes) ?? [];
  const placed = new Set(plan.items.filter((one) => one.kind === "node").map((one) => one.text));
  const heard = [
    ...new Map(nodes.filter((one) => !one.silent).map((one) => [one.ip, one.name])).entries(),
  ].filter(([ip, name]) => !placed.has(`${name} ${ip}`));
  const [one] = chosen;
  if (!fixtures && !one)
    return (
      <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap", minHeight: 26 }}>
        <Cap>Choose fixtures to place them as a row, tiles or a ring.</Cap>
        <Chip active={tool === "label"} onClick={() => onTool(tool === "label" ? "choose" : "label")}>
          label
        </Chip>
        {heard.slice(0, 3).map(([ip, name]) => (
          <Chip
            key={ip}
            onClick={() => onPut([nodeItem(plan, `${name} ${ip}`)], "Placed a node on the plan")}
          >
            place {name}
          </Chip>
        ))}
      </Box>
    );
  return (
    <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", flexWrap: "wrap", minHeight: 26 }}>
      {fixtures > 0 && (
        <>
          <Cap>Drag out a</Cap>
          {(["row", "grid", "ring"] as const).map((name) => (
            <Chip
              key={name}
              active={tool === name}
              aria-pressed={tool === name}
              onClick={() => onTool(tool === name ? "choose" : name)}
            >
              {name}
            </Chip>
          ))}
        </>
      )}
      {chosen.length > 1 && (
        <>
          <Cap sx={{ ml: 1 }}>align</Cap>
          {ALIGN.map(([edge, text]) => (
            <Button key={edge} variant="text" sx={TIGHT} onClick={() => onArrange({ how: "align", edge })}>
              {text}
            </Button>
          ))}
          <Cap sx={{ ml: 1 }}>spread</Cap>
          {(["x", "y"] as const).map((axis) => (
            <Button key={axis} variant="text" sx={TIGHT} onClick={() => onArrange({ how: "spread", axis })}>
              {axis === "x" ? "across" : "up"}
            </Button>
          ))}
        </>
      )}
      {chosen.length === 1 && one && <OneItem item={one} onPut={onPut} />}
      {chosen.length > 0 && (
        <>
          <Typed
            numeric
            width={78}
            label="Turn by, degrees"
            value=""
            placeholder="turn °"
            onCommit={(text) => {
              const degrees = Number.parseFloat(text.replace(",", "."));
              if (Number.isNaN(degrees)) return "Degrees, counter-clockwise.";
              return onArrange({ how: "turn", degrees });
            }}
          />
          <Button variant="text" sx={TIGHT} onClick={() => onArrange({ how: "mirror" })}>
            mirror
          </Button>
          <Button
            variant="text"
            sx={TIGHT}
            onClick={() =>
              onPut(
                [],
                "Took off the plan",
                chosen.map((item) => item.id),
              )
            }
          >
            take off
          </Button>
        </>
      )}
    </Box>
  );
}

const TIGHT = { px: 0.5, minWidth: 0 };

/** The place and size of one item, typed; the text of a label. */
function OneItem({ item, onPut }: { item: PlanItem; onPut: ToolsProps["onPut"] }) {
  const number = (text: string) => Number.parseFloat(text.replace(",", "."));
  const fields = [
    ["x", "x"],
    ["y", "y"],
    ["w", "wide"],
    ["h", "high"],
  ] as const;
  return (
    <>
      {item.kind === "label" && (
        <Typed
          width={150}
          label="Text of the label"
          value={item.text}
          onCommit={(text) => onPut([{ ...item, text }], "Changed a label")}
        />
      )}
      {fields.slice(0, item.kind === "fixture" ? 4 : 2).map(([key, word]) => (
        <Box key={key} sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
          <Cap>{word}</Cap>
          <Typed
            numeric
            width={58}
            label={`${word}, metres`}
            value={String(Number(item[key].toFixed(2)))}
            onCommit={(text) => {
              const value = number(text);
              const good =
                key === "x" || key === "y" ? Math.abs(value) <= 10_000 : value > 0 && value <= 10_000;
              if (!good) return "Metres.";
              return onPut([{ ...item, [key]: value }], "Moved on the plan");
            }}
          />
        </Box>
      ))}
    </>
  );
}

function nodeItem(plan: PlanData, text: string): PlanItem {
  const lowest = plan.items.reduce((low, one) => Math.min(low, one.y), 0);
  const nodes = plan.items.filter((one) => one.kind === "node").length;
  return {
    id: newId(),
    kind: "node",
    x: nodes * 4,
    y: lowest - 1,
    turn: 0,
    w: 0.4,
    h: 0.3,
    mirrored: false,
    text,
  };
}
