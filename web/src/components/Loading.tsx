import { Box } from "@mui/material";
import type { Fault } from "../api/client";
import { ink } from "../theme/tokens";
import { Empty } from "./atoms";

/** While the show is on its way; where it cannot be had, why and what happens next. */
export function Loading({ error }: { error: Fault | null }) {
  if (error)
    return (
      <Empty title="The show cannot be read">
        {error.what} {error.repair}
      </Empty>
    );
  return (
    <Box role="status" sx={{ p: 3, color: ink.soft }}>
      Reading the show ...
    </Box>
  );
}
