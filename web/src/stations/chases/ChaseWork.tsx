import { Box, Button } from "@mui/material";
import { useEffect, useMemo, useRef, useState } from "react";
import type { WholeShow } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { beadsOf } from "../../model/placements";
import { act } from "../../stores/hands";
import { ink } from "../../theme/tokens";
import { ChaseGrid } from "./ChaseGrid";
import type { ChaseNow } from "./ChaseSide";
import { FrameSets } from "./FrameSets";
import { OnLamps } from "./OnLamps";
import { Strip } from "./Strip";
import { Tools } from "./Tools";
import type { ChaseEdits, Rgb, Tool } from "./useChaseEdits";
import { type Chase, useFramePicture } from "./useFramePicture";

interface WorkProps {
  show: WholeShow;
  chase: Chase;
  edits: ChaseEdits;
  playing: ChaseNow[];
  here: number;
  onHere: (frame: number) => void;
}

const LABELLED = 2_000;

/** A chase: its frame that is drawn, the tools, and the strip of all its frames. */
export function ChaseWork({ show, chase, edits, playing, here, onHere }: WorkProps) {
  const [tool, setTool] = useState<Tool | "pick up">("pen");
  const [colour, setColour] = useState<Rgb>([255, 176, 84]);
  const drawnOn = chase.frames[here]?.id ?? "";
  const before = (here + chase.frames.length - 1) % chase.frames.length;
  const picture = useFramePicture(chase, chase.frames[here]?.picture);
  const under = useFramePicture(chase, before === here ? undefined : chase.frames[before]?.picture);
  const matrix = [...show.matrices, ...show.canvases].find((one) => one.id === chase.canvas);
  const labels = useMemo(() => {
    const found = new Map<number, string>();
    if (!matrix || chase.columns * chase.rows > LABELLED) return found;
    for (const bead of beadsOf(matrix, show.fixtures)) {
      const name =
        bead.fixture.cells > 1 ? `${bead.fixture.number}:${bead.cell}` : String(bead.fixture.number);
      if (bead.w === 1 && bead.h === 1) found.set(bead.y * chase.columns + bead.x, name);
    }
    return found;
  }, [matrix, show.fixtures, chase.columns, chase.rows]);
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 400, height: 280 });
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const watch = new ResizeObserver(() =>
      setSize({ width: element.clientWidth - 32, height: element.clientHeight - 24 }),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const step = (name: "next" | "previous") => {
    for (const one of playing) act(`look/${one.look}/${one.line}/${name}`, null);
  };
  const steps = useRef(step);
  steps.current = step;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.target as HTMLElement).closest("input, textarea") || event.ctrlKey || event.metaKey) return;
      if (event.key === ",") steps.current("previous");
      else if (event.key === ".") steps.current("next");
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <>
      <Box
        sx={{
          px: 2,
          py: 1.25,
          display: "flex",
          alignItems: "center",
          gap: 1,
          flexWrap: "wrap",
          borderBottom: `1px solid ${ink.hair}`,
        }}
      >
        <Box sx={{ flex: 1, minWidth: 180, ml: -0.75 }}>
          <Box sx={{ "& input": { fontSize: 21, fontWeight: 620, height: 32 } }}>
            <Typed
              quiet
              label="Name of the chase"
              value={chase.name}
              onCommit={(name) => edits.change({ name })}
            />
          </Box>
          <Cap sx={{ pl: 0.75 }}>
            on {matrix?.name ?? "nothing any more"},{" "}
            <Num>
              {chase.columns} × {chase.rows}
            </Num>
            {chase.origin && `, ${chase.origin}`}
          </Cap>
        </Box>
        <OnLamps playing={playing} frame={here + 1} />
        <Cap>type</Cap>
        <Typed
          width={190}
          label="Cells and their colour"
          placeholder="515-517 = amber, zoom = 12 %"
          value=""
          onCommit={(text) => (text ? edits.type(drawnOn, text) : "")}
        />
        <Button variant="text" sx={{ color: ink.soft }} onClick={() => void edits.copy()}>
          Duplicate
        </Button>
        <Button variant="text" sx={{ color: ink.soft }} onClick={() => void edits.remove()}>
          Delete
        </Button>
      </Box>
      <FrameSets
        sets={chase.frames[here]?.sets ?? []}
        onTake={(word) => void edits.type(drawnOn, `${word} =`)}
      />
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          display: "grid",
          gridTemplateColumns: "minmax(0,1fr) minmax(262px, 38%)",
        }}
      >
        <Box ref={room} sx={{ minWidth: 0, minHeight: 0, px: 2, py: 1.5, overflow: "auto" }}>
          <ChaseGrid
            chase={chase}
            picture={picture}
            before={under}
            labels={labels}
            tool={tool}
            colour={colour}
            room={size}
            onDraw={(used, squares, drawn) => edits.draw(drawnOn, used, squares, drawn)}
            onPick={(picked) => {
              setColour(picked);
              setTool("pen");
            }}
          />
        </Box>
        <Box sx={{ minWidth: 0, overflowY: "auto", px: 2, py: 1.5, borderLeft: `1px solid ${ink.hair}` }}>
          <Tools
            tool={tool}
            onTool={setTool}
            onMirror={(way) => void edits.draw(drawnOn, way, [], null)}
            colour={colour}
            onColour={setColour}
            picture={picture}
          />
        </Box>
      </Box>
      <Strip chase={chase} edits={edits} here={here} onHere={onHere} playing={playing} onStep={step} />
    </>
  );
}
