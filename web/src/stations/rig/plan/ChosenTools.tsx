import { Box, Button } from "@mui/material";
import type { PlanData, Schemas } from "../../../api/client";
import { newId } from "../../../api/person";
import { Cap, Chip } from "../../../components/atoms";
import { Typed } from "../../../components/Typed";
import type { PlanItem } from "../../../model/plan";
import { useLive } from "../../../stores/live";
import type { ToolsProps } from "./PlanTools";

type Edge = Schemas["Aligned"]["edge"];

const ALIGN: [Edge, string][] = [
  ["left", "left"],
  ["centre", "centre"],
  ["right", "right"],
  ["top", "top"],
  ["middle", "middle"],
  ["bottom", "bottom"],
];

/** What can be done with what is chosen on the plan. */
export function ChosenTools({ plan, chosen, fixtures, tool, onTool, onPut, onArrange }: ToolsProps) {
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
