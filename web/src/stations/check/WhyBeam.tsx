import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Num } from "../../components/atoms";
import { ink } from "../../theme/tokens";

type Step = Schemas["WhyStep"];

/** Steps that put a value in place of what looks make. */
const LOUD = new Set(["manual", "raw", "parked", "highlight", "walk", "guard", "muted"]);
const WIDE = 18;
const LEAST = 1.5;

/** The chain as a beam from the bottom line of the look to the wire: as wide at each step as the channel is high. */
export function WhyBeam({ chain }: { chain: Schemas["WhyChannel"] }) {
  let level = 0;
  const rows = chain.steps.map((step) => {
    const from = level;
    if (typeof step.value === "number") level = step.value;
    return { step, from, to: level };
  });
  return (
    <Box
      component="ol"
      sx={{ m: 0, px: 2, pb: 1.5, listStyle: "none", fontSize: 13, lineHeight: "18px", isolation: "isolate" }}
    >
      {rows.map(({ step, from, to }, index) => (
        <Link
          // biome-ignore lint/suspicious/noArrayIndexKey: a step is its place in the chain
          key={index}
          step={step}
          from={from}
          to={to}
        />
      ))}
      {chain.ways.map((way) => (
        <Box
          component="li"
          key={way}
          sx={{ display: "grid", gridTemplateColumns: "26px minmax(0,1fr)", overflowWrap: "anywhere" }}
        >
          <Beam from={level} to={level} dashed={!chain.sent} />
          <Box component="span" sx={{ py: "4px", color: ink.soft }}>
            {way}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function Link({ step, from, to }: { step: Step; from: number; to: number }) {
  const known = typeof step.value === "number";
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: "26px minmax(0,1fr) 32px",
        columnGap: 0,
        overflowWrap: "anywhere",
      }}
    >
      <Beam from={from} to={to} />
      <Box component="span" sx={{ py: "4px", color: LOUD.has(step.kind) ? ink.brass : ink.text }}>
        {step.says}
      </Box>
      <Num style={{ textAlign: "right", padding: "4px 0", fontWeight: 600 }}>
        {known ? Math.round(to) : ""}
      </Num>
    </Box>
  );
}

const widthOf = (level: number): number => Math.max((level / 255) * WIDE, LEAST);

/** One step's part of the beam: it begins as wide as the step before left it. */
function Beam({ from, to, dashed }: { from: number; to: number; dashed?: boolean }) {
  const [a, b] = [widthOf(from), widthOf(to)];
  const middle = WIDE / 2;
  return (
    <svg
      width={WIDE}
      height="100%"
      viewBox={`0 0 ${WIDE} 10`}
      preserveAspectRatio="none"
      aria-hidden="true"
      style={{ minHeight: 26, display: "block" }}
    >
      <path
        d={`M${middle - a / 2} 0H${middle + a / 2}L${middle + b / 2} 5V10H${middle - b / 2}V5Z`}
        fill={dashed ? "none" : ink.brass}
        fillOpacity="0.85"
        stroke={dashed ? ink.brass : "none"}
        strokeDasharray="2 2"
      />
    </svg>
  );
}
