import { Box, Button } from "@mui/material";
import type { Schemas } from "../../../api/client";
import { FaultNote } from "../../../components/atoms";
import { ink } from "../../../theme/tokens";
import { ChangeList } from "../ChangeList";

interface ChangeBarProps {
  plan: Schemas["ChangePlan"];
  onApply: () => Promise<void>;
  onTakeBack: () => void;
}

/** What waits: a change that cannot be, or one that changes fixtures, each of them listed. */
export function ChangeBar({ plan, onApply, onTakeBack }: ChangeBarProps) {
  const count = plan.fixtures.length;
  return (
    <Box
      role="region"
      aria-label="Before it is changed"
      sx={{ borderTop: `1px solid ${ink.brassSoft}`, background: ink.panel, px: 2, py: 1.25 }}
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5 }}>
        <Box sx={{ flex: 1, fontWeight: 600 }}>
          {plan.problem
            ? "Not stored yet"
            : `${count} ${count === 1 ? "fixture changes" : "fixtures change"} with it`}
        </Box>
        <Button variant="text" onClick={onTakeBack}>
          Take it back
        </Button>
        {!plan.problem && (
          <Button color="primary" onClick={() => void onApply()}>
            Change {count === 1 ? "it" : `all ${count}`}
          </Button>
        )}
      </Box>
      {plan.problem ? (
        <FaultNote what={plan.problem} repair={plan.repair} />
      ) : (
        <ChangeList fixtures={plan.fixtures} />
      )}
    </Box>
  );
}
