import { memo, useState } from "react";
import type { WholeShow } from "../../api/client";
import { Pane } from "../../components/atoms";
import { ChaseSide, useChaseNow } from "./ChaseSide";
import { ChaseWork } from "./ChaseWork";
import { useChaseEdits } from "./useChaseEdits";
import type { Chase } from "./useFramePicture";

/** The two panes of a chosen chase: drawing it, and what of it is sent. */
export const ChaseStation = memo(function ChaseStation({ show, chase }: { show: WholeShow; chase: Chase }) {
  const edits = useChaseEdits(chase);
  const playing = useChaseNow(chase.id);
  const [frame, setFrame] = useState(0);
  const here = Math.min(frame, chase.frames.length - 1);
  const shared = { show, chase, edits, playing, here, onHere: setFrame };
  return (
    <>
      <Pane>
        <ChaseWork {...shared} />
      </Pane>
      <Pane>
        <ChaseSide {...shared} />
      </Pane>
    </>
  );
});
