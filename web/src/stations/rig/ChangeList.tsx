import { Box } from "@mui/material";
import type { Schemas } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { ink, mono } from "../../theme/tokens";

interface ChangeListProps {
  fixtures: Schemas["ChangedFixture"][];
  /** They are copies: what they come from does not change. */
  copies?: boolean;
}

/** Fixtures before and after a change of many at once; only what becomes another is said. */
export function ChangeList({ fixtures, copies }: ChangeListProps) {
  if (!fixtures.length) return <Cap sx={{ mt: 0.5 }}>Nothing would change.</Cap>;
  return (
    <Box
      aria-label="What would change"
      role="list"
      sx={{
        mt: 1,
        maxHeight: 168,
        overflowY: "auto",
        display: "grid",
        gridTemplateColumns: "repeat(auto-fill, minmax(400px, 1fr))",
        columnGap: 3,
      }}
    >
      {fixtures.map((one, index) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: several copies come from one fixture
          key={`${one.id} ${index}`}
          role="listitem"
          sx={{
            display: "grid",
            gridTemplateColumns: "84px minmax(0,1fr) auto",
            gap: 1,
            contentVisibility: "auto",
            containIntrinsicSize: "auto 24px",
            lineHeight: "23px",
            borderBottom: `1px dashed ${ink.hair2}`,
            whiteSpace: "nowrap",
            fontSize: 13,
          }}
        >
          <Num>{copies ? one.number : fromTo(String(one.number_before), String(one.number))}</Num>
          <Box sx={{ overflow: "hidden", textOverflow: "ellipsis" }}>
            {copies ? one.name : fromTo(one.name_before, one.name)}
          </Box>
          <Box sx={{ fontFamily: mono, fontSize: 12.5, color: one.says ? ink.brass : ink.soft }}>
            {places(one, copies)}
          </Box>
          {one.says && (
            <Box sx={{ gridColumn: "1 / -1", color: ink.brass, whiteSpace: "normal", lineHeight: "18px" }}>
              {one.says}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}

const fromTo = (before: string, after: string): string => (before === after ? after : `${before} > ${after}`);

function places(one: Schemas["ChangedFixture"], copies?: boolean): string {
  const length =
    one.footprint === one.footprint_before || copies
      ? `${one.footprint} ch`
      : `${one.footprint_before} > ${one.footprint} ch`;
  const mode = one.mode === one.mode_before || copies ? "" : `${one.mode_before} > ${one.mode}, `;
  const place = one.address ? `${one.address} to ${one.end.split(".")[1] ?? "?"}` : "no address";
  return `${mode}${length}, ${place}`;
}
