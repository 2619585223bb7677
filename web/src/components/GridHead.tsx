import { Box } from "@mui/material";
import { ink } from "../theme/tokens";

interface HeadProps {
  heads: readonly string[];
  /** Widths of the columns, as the rows have them. */
  columns: string;
  sx?: object;
}

/** The heads of a table's columns; they stay in sight while its rows scroll. */
export function GridHead({ heads, columns, sx }: HeadProps) {
  return (
    <Box
      role="row"
      aria-rowindex={1}
      sx={{
        display: "grid",
        gridTemplateColumns: columns,
        px: 2,
        position: "sticky",
        top: 0,
        zIndex: 1,
        background: ink.ground,
        fontSize: 12,
        color: ink.soft,
        borderBottom: `1px solid ${ink.hair}`,
        pb: 0.5,
        columnGap: 1,
        ...sx,
      }}
    >
      {heads.map((head) => (
        <span key={head} role="columnheader">
          {head}
        </span>
      ))}
    </Box>
  );
}
