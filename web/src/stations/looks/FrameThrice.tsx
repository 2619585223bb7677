import { Box } from "@mui/material";
import { memo, useEffect, useRef, useState } from "react";
import type { LookView, MatrixView, WholeShow } from "../../api/client";
import { Cap, Chip, Num, PaneHead, Scroll } from "../../components/atoms";
import { PictureCanvas } from "../../components/PictureCanvas";
import { PreviewCanvas } from "../../components/PreviewCanvas";
import { canvasesOf } from "../../model/canvases";
import { useLive, watchFull } from "../../stores/live";
import { latest, pictures, previewKey, previews } from "../../stores/pictures";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { MotionPart } from "./attributes/MotionPart";
import { SameOrNot, whyDark } from "./SameOrNot";

/** One frame three times: painted, on the cells, sent. */
export const FrameThrice = memo(function FrameThrice({ show, look }: { show: WholeShow; look: LookView }) {
  const lines = look.lines;
  const chosen = useView((view) => view.line);
  const [picked, setPicked] = useState<string | null>(null);
  const matrices = canvasesOf(
    show,
    lines.filter((line) => line.paints !== "attributes"),
  );
  const heads = lines.find((line) => line.id === chosen);
  const wanted = lines.find((line) => line.id === chosen)?.canvas;
  // biome-ignore lint/correctness/useExhaustiveDependencies: choosing another line shows its matrix
  useEffect(() => setPicked(null), [chosen]);
  const matrix = matrices.find((m) => m.id === (picked ?? wanted)) ?? matrices[0];
  const state = useLive((live) => live.engine?.state);
  const on = state?.running.some((run) => run.look === look.id) ?? false;
  const blind = state?.blind.includes(look.id) ?? false;
  const why = whyDark(state, on, blind);
  const [here, pane] = useSize();
  return (
    <>
      <PaneHead title="One frame, three times">
        <FrameTime />
      </PaneHead>
      <Scroll ref={here}>
        {heads?.paints === "attributes" && <MotionPart look={look} line={heads} />}
        {matrices.length > 1 && (
          <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", px: 2, pb: 1.25 }}>
            {matrices.map((one) => (
              <Chip
                key={one.id}
                active={one.id === matrix?.id}
                aria-pressed={one.id === matrix?.id}
                onClick={() => setPicked(one.id)}
              >
                {one.name}
              </Chip>
            ))}
          </Box>
        )}
        {matrix ? (
          <Three
            key={matrix.id}
            matrix={matrix}
            on={on && !blind}
            why={why}
            universes={universesOf(show, matrix)}
            pane={pane}
          />
        ) : (
          <Cap sx={{ px: 2 }}>The matrices this look paints show here.</Cap>
        )}
      </Scroll>
    </>
  );
});

/** Show time and beat of the frame that was sent last. */
function FrameTime() {
  const [text, setText] = useState("");
  useEffect(() => {
    const timer = setInterval(() => setText(`${latest.frame.showSeconds.toFixed(1)} s`), 100);
    return () => clearInterval(timer);
  }, []);
  return <Num style={{ color: ink.soft, fontSize: 12.5 }}>{text}</Num>;
}

/** What stands around the pictures in their pane: its sides, the gaps, titles and the line beneath. */
const [SIDES, GAP, UPRIGHT_ROOM, FLAT_ROOM] = [32, 12, 190, 200];
const LEAST = 40;

/** The size of a picture: as large as three of them find room in the pane, side by side where they stand upright. */
function sizeIn(pane: { width: number; height: number }, matrix: MatrixView): [number, number] {
  const wide = pane.width - SIDES;
  const upright = matrix.height > matrix.width;
  const [most, high] = upright
    ? [(wide - 2 * GAP) / 3, Math.max(pane.height - UPRIGHT_ROOM, LEAST)]
    : [wide, Math.max((pane.height - FLAT_ROOM) / 3, LEAST)];
  const scale = Math.min(most / matrix.width, high / matrix.height);
  return [Math.max(scale * matrix.width, 10), Math.max(scale * matrix.height, 10)];
}

/** The size of an element, told anew when it changes. */
function useSize(): [React.RefObject<HTMLDivElement | null>, { width: number; height: number }] {
  const here = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 356, height: 560 });
  useEffect(() => {
    const element = here.current;
    if (!element) return;
    const watch = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [here, size];
}

function Three({
  matrix,
  on,
  why,
  universes,
  pane,
}: {
  pane: { width: number; height: number };
  matrix: MatrixView;
  on: boolean;
  why: string;
  universes: string;
}) {
  useEffect(() => watchFull(matrix.id), [matrix.id]);
  const [state, setState] = useState<string>("sent");
  const [difference, setDifference] = useState(-1);
  useEffect(() => {
    const timer = setInterval(() => {
      setState(pictures.get(matrix.id)?.state ?? "not sent");
      setDifference(previews.get(previewKey("cells", matrix.id))?.difference ?? -1);
    }, 400);
    return () => clearInterval(timer);
  }, [matrix.id]);
  const upright = matrix.height > matrix.width;
  const [width, height] = sizeIn(pane, matrix);
  const size = { width, height };
  const parts = [
    {
      title: "Painted",
      says: `${matrix.width} × ${matrix.height}, before the lamps`,
      picture: (
        <PreviewCanvas
          kind="painted"
          id={matrix.id}
          label={`${matrix.name} as painted`}
          {...size}
          smooth={matrix.width * matrix.height >= 200}
        />
      ),
    },
    {
      title: "On the cells",
      says: "after colour and masters",
      picture: (
        <PreviewCanvas kind="cells" id={matrix.id} label={`${matrix.name} on the cells`} {...size} lamps />
      ),
    },
    {
      title: "Sent",
      says: `decoded from ${universes}`,
      picture: <PictureCanvas matrix={matrix.id} label={`${matrix.name} as sent, large`} {...size} lamps />,
    },
  ];
  return (
    <Box sx={{ px: 2, pb: 2 }}>
      <Box sx={upright ? { display: "flex", gap: 1.5 } : { display: "grid", gap: 1.5 }}>
        {parts.map((part) => (
          <Box key={part.title} sx={{ width: upright ? width : "auto", minWidth: upright ? 92 : 0 }}>
            <Box
              sx={{
                display: "flex",
                flexDirection: upright ? "column" : "row",
                justifyContent: "space-between",
                mb: 0.75,
              }}
            >
              <b style={{ fontWeight: 600, fontSize: 13 }}>{part.title}</b>
              <Cap sx={upright ? { minHeight: 48 } : {}}>{part.says}</Cap>
            </Box>
            {part.picture}
          </Box>
        ))}
      </Box>
      <SameOrNot on={on} why={why} difference={difference} state={state} />
    </Box>
  );
}

/** "U1 to U6": the universes the matrix's cells lie in. */
function universesOf(show: WholeShow, matrix: MatrixView): string {
  const placed = new Set(matrix.placements.fixtures);
  const numbers = show.fixtures
    .filter((fixture) => placed.has(fixture.id))
    .flatMap((fixture) => fixture.spans.map(([universe]) => universe));
  if (!numbers.length) return "nothing yet";
  const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
  return low === high ? `U${low}` : `U${low} to U${high}`;
}
