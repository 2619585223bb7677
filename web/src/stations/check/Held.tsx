import { Box, Button } from "@mui/material";
import { answer, client, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, Num, PaneHead } from "../../components/atoms";
import { heldLines } from "../../model/why";
import { command } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

const SHOWN = 60;
const NOTHING: Record<string, number> = {};

/** Everything that is held by hand, released one by one or all at once. */
export function Held({ show, onPlace }: { show: WholeShow; onPlace: (address: string) => void }) {
  const manual = useLive((live) => live.engine?.state.manual ?? NOTHING);
  const raw = useLive((live) => live.engine?.state.raw ?? NOTHING);
  const edit = useEdit();
  const lines = heldLines(manual, raw, show.fixtures, show.parked);
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}` }} role="group" aria-label="Held by hand">
      <PaneHead title="Held or parked">
        <Cap>{lines.length ? String(lines.length) : "nothing"}</Cap>
        {lines.length > 0 && (
          <Button
            onClick={() => {
              command({ do: "release" });
              if (show.parked.length) void edit(() => answer(client.DELETE("/api/parked")));
            }}
          >
            Release all
          </Button>
        )}
      </PaneHead>
      {lines.slice(0, SHOWN).map((line) => (
        <Box
          key={`${line.kind} ${line.key}`}
          sx={{
            px: 2,
            minHeight: 26,
            display: "grid",
            gridTemplateColumns: "1fr 36px 24px",
            alignItems: "center",
            gap: 1,
            fontSize: 13,
          }}
        >
          <Button
            variant="text"
            title="Show it among the channels"
            onClick={() => onPlace(line.address)}
            sx={{ px: 0, justifyContent: "flex-start", fontWeight: 400, color: ink.text, minWidth: 0 }}
          >
            <Box
              component="span"
              sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap", minWidth: 0 }}
            >
              {line.says}
            </Box>
          </Button>
          <Num style={{ textAlign: "right" }}>{line.value}</Num>
          <Button
            variant="text"
            aria-label={`Release ${line.says}`}
            sx={{ minWidth: 0, px: 0, color: ink.brass }}
            onClick={() =>
              line.kind === "parked"
                ? void edit(() =>
                    answer(client.PUT("/api/parked", { body: { values: { [line.key]: null } } })),
                  )
                : command({ do: line.kind, values: { [line.key]: null } })
            }
          >
            ×
          </Button>
        </Box>
      ))}
      {lines.length > SHOWN && <Cap sx={{ px: 2 }}>and {lines.length - SHOWN} more</Cap>}
    </Box>
  );
}
