import { Button } from "@mui/material";
import { useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, PaneHead } from "../../components/atoms";
import { useLive } from "../../stores/live";
import { NewOutput } from "./NewOutput";
import { OutputRow } from "./OutputRow";
import { useReach } from "./useReach";

/** All outputs; each setting acts at once. */
export function Outputs({ show }: { show: WholeShow }) {
  const [adding, setAdding] = useState(false);
  const stats = useLive((live) => live.engine?.outputs);
  const reach = useReach(show);
  const on = show.outputs.filter((output) => output.on).length;
  return (
    <>
      <PaneHead title="Outputs">
        <Cap>
          {on} on, {show.outputs.length - on} off
        </Cap>
        <Button color="primary" onClick={() => setAdding(true)} disabled={adding}>
          Add output
        </Button>
      </PaneHead>
      {adding && <NewOutput show={show} onDone={() => setAdding(false)} />}
      {!adding && show.outputs.length === 0 && (
        <Cap sx={{ px: 2, pb: 2, fontSize: 13, lineHeight: "18px" }}>
          Nothing leaves the machine yet. An output sends a run of universes to a node (Art-Net or sACN
          unicast), or to everybody who listens (sACN multicast, Art-Net broadcast).
        </Cap>
      )}
      {show.outputs.map((output, index) => (
        <OutputRow
          key={output.id}
          output={output}
          index={index + 1}
          stats={stats?.find((one) => one.id === output.id)}
          reach={reach?.outputs.find((one) => one.output === output.id)}
        />
      ))}
    </>
  );
}
