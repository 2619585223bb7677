import { Box, Button } from "@mui/material";
import { Cap, Num, PaneHead } from "../../components/atoms";
import { command } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

const NOBODY: never[] = [];

/** Addresses that stay safe because a laser left them, until somebody who looked says that it is gone from there. */
export function LeftPlaces() {
  const left = useLive((live) => live.engine?.state.left) ?? NOBODY;
  const away = useLive((live) => live.engine?.state.away) ?? 0;
  if (!left.length) return null;
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}`, pb: 1 }} role="group" aria-label="Held safe by address">
      <PaneHead title="Held safe by address">
        <Cap>{left.length}</Cap>
      </PaneHead>
      {left.map((one) => (
        <Box key={one.fixture} sx={{ px: 2, pb: 1, fontSize: 13 }}>
          <Box>
            Laser <Num>{one.number}</Num> {one.name} lay at{" "}
            <Num style={{ color: ink.coral }}>{one.addresses.join(", ")}</Num>. Nothing else reaches it there.
          </Box>
          <Button sx={{ mt: 0.5 }} onClick={() => command({ do: "gone", fixture: one.fixture })}>
            The laser is gone from here
          </Button>
        </Box>
      ))}
      {away > 0 && (
        <Box sx={{ px: 2, pb: 1, fontSize: 13 }}>
          <Box>
            {away === 1 ? "One laser" : `${away} lasers`} lay where nothing is sent now. Should any show send
            there again, it stays safe.
          </Box>
          <Button sx={{ mt: 0.5 }} onClick={() => command({ do: "gone" })}>
            All lasers are gone from where they lay
          </Button>
        </Box>
      )}
    </Box>
  );
}
