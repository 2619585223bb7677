import { Box } from "@mui/material";
import { Empty } from "../../components/atoms";
import { FixtureTable } from "./FixtureTable";
import { RigFrame } from "./RigFrame";

/** Station 1: what hangs there, as a table. */
export function Rig() {
  return (
    <RigFrame at="fixtures">
      {(show) =>
        show.fixtures.length ? (
          <FixtureTable show={show} />
        ) : (
          <Box sx={{ flex: 1 }}>
            <Empty title="Nothing hangs here yet">
              Type what you have into the line below, the way you would say it: <b>21 x RGB lamp</b>, or{" "}
              <b>18 x RGB pixel strip, mode 50 RGB, from 101, Tower {"{n}"}</b>. Numbers and addresses count
              on by themselves, and you see all of them before anything is added.
            </Empty>
          </Box>
        )
      }
    </RigFrame>
  );
}
