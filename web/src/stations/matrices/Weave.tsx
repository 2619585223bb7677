import { Box, Button, Checkbox, FormControlLabel, Radio, RadioGroup } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { answer, client, type Fault, type MatrixView, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, FaultNote, PaneHead, Scroll } from "../../components/atoms";
import { Field } from "../../components/Field";
import { PLAIN } from "../../model/weaving";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { CORNERS, CornerButton, Count, WeaveExtras } from "./WeaveExtras";
import { WovenPicture } from "./WovenPicture";

type Body = Schemas["WeaveBody"];

/** What would be woven: its squares in the order of the cells. */
export interface Woven {
  squares: [number, number][];
  width: number;
  height: number;
}

interface WeaveProps {
  show: WholeShow;
  matrix: MatrixView | undefined;
  /** There is no matrix yet: its picture is drawn where it would stand. */
  onWoven: (woven: Woven | null) => void;
}

/** Places cells in one step, in the order they are wired; it begins with how the matrix was woven. */
export function Weave({ show, matrix, onWoven }: WeaveProps) {
  const id = matrix?.id ?? "";
  const { data } = useQuery({
    queryKey: ["woven", id, matrix?.rev],
    placeholderData: (before) => before,
    enabled: Boolean(id),
    queryFn: () =>
      answer(client.GET("/api/matrices/{matrix_id}/woven", { params: { path: { matrix_id: id } } })),
  });
  if (!matrix)
    return <WeaveForm key="new" show={show} matrix={undefined} begin={first(show)} known onWoven={onWoven} />;
  if (!data) return null;
  return (
    <WeaveForm
      key={id}
      show={show}
      matrix={matrix}
      begin={data.weave as Body}
      known={data.known}
      onWoven={onWoven}
    />
  );
}

interface FormProps extends WeaveProps {
  begin: Body;
  /** Whether the matrix was woven so; else it is only where to begin. */
  known: boolean;
}

function WeaveForm({ show, matrix, begin, known, onWoven }: FormProps) {
  const [body, setBody] = useState<Body>(begin);
  const [said, setSaid] = useState<Schemas["WeaveSaid"] | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const asked = useRef(0);
  const edit = useEdit();

  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision may answer otherwise
  useEffect(() => {
    const turn = ++asked.current;
    const asks = { ...body, matrix: matrix?.id ?? null };
    answer(client.POST("/api/matrices/say", { body: asks })).then(
      (sentence) => turn === asked.current && setSaid(sentence as Schemas["WeaveSaid"]),
      () => turn === asked.current && setSaid(null),
    );
  }, [body, matrix?.id, show.show.revision]);

  const woven = useMemo(
    () =>
      said && !said.problem
        ? { squares: said.squares as Woven["squares"], width: body.width, height: body.height }
        : null,
    [said, body.width, body.height],
  );
  useEffect(() => {
    if (!matrix) onWoven(woven);
  }, [matrix, woven, onWoven]);

  const set = (change: Partial<Body>) => {
    setFault(null);
    setBody({ ...body, ...change });
  };
  const apply = async () => {
    if (matrix) {
      const params = { path: { matrix_id: matrix.id } };
      await edit(() => answer(client.POST("/api/matrices/{matrix_id}/weave", { params, body })), setFault);
      return;
    }
    const id = newId();
    const made = { id, name: "Matrix 1", width: body.width, height: body.height, weave: body };
    if (await edit(() => answer(client.POST("/api/matrices", { body: made })), setFault))
      useView.setState({ matrix: id });
  };
  const remove = async () => {
    if (!matrix) return;
    const params = { path: { matrix_id: matrix.id } };
    if (await edit(() => answer(client.DELETE("/api/matrices/{matrix_id}", { params })), setFault))
      useView.setState({ matrix: null });
  };

  return (
    <>
      <PaneHead title="Weave">
        <Cap>{known ? "cells in their wired order" : "laid by hand: not woven as a whole"}</Cap>
      </PaneHead>
      <Scroll>
        <Box
          sx={{
            px: 2,
            display: "grid",
            gridTemplateColumns: "84px 1fr",
            rowGap: 1.25,
            alignItems: "center",
            fontSize: 13.5,
          }}
        >
          <label htmlFor="weave-cells">Cells</label>
          <Field
            id="weave-cells"
            width={150}
            value={body.selection ?? "all"}
            onChange={(selection) => set({ selection })}
          />
          <label htmlFor="weave-columns">Columns</label>
          <Whole id="weave-columns" value={body.width} onChange={(width) => set({ width })} />
          <label htmlFor="weave-rows">Rows</label>
          <Whole id="weave-rows" value={body.height} onChange={(height) => set({ height })} />
          <span>Start</span>
          <Box sx={{ display: "flex", alignItems: "center", gap: 1.25 }}>
            <Box sx={{ display: "grid", gridTemplateColumns: "32px 32px", gap: 0.5 }}>
              {CORNERS.map((corner) => (
                <CornerButton
                  key={corner}
                  corner={corner}
                  on={body.corner === corner}
                  onClick={() => set({ corner })}
                />
              ))}
            </Box>
            {body.corner}
          </Box>
          <span>Along</span>
          <RadioGroup row value={body.along} onChange={(_, along) => set({ along: along as "rows" })}>
            <FormControlLabel value="rows" label="rows" control={<Radio size="small" />} />
            <FormControlLabel value="columns" label="columns" control={<Radio size="small" />} />
          </RadioGroup>
          <span>Snake</span>
          <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
            <FormControlLabel
              label={body.snake ? "turns back every" : "turns back"}
              control={
                <Checkbox
                  size="small"
                  checked={body.snake > 0}
                  onChange={(_, on) => set({ snake: on ? 1 : 0 })}
                />
              }
            />
            {body.snake > 0 && (
              <Count
                label="Lines until it turns back"
                value={body.snake}
                onChange={(snake) => set({ snake })}
              />
            )}
          </Box>
        </Box>
        <WeaveExtras body={body} set={set} />
      </Scroll>
      <Box sx={{ borderTop: `1px solid ${ink.hair}`, background: ink.panel }}>
        {woven && matrix && <WovenPicture {...woven} />}
        <Box
          sx={{
            m: 2,
            pl: 1.5,
            borderLeft: `2px solid ${said?.problem ? ink.brass : ink.sea}`,
            fontSize: 14.5,
            lineHeight: "21px",
          }}
        >
          {said?.problem ? <FaultNote what={said.problem} repair={said.repair} /> : said?.sentence}
          {said && !said.problem && said.moved >= 0 && <Cap sx={{ mt: 0.5 }}>{sayMoved(said.moved)}</Cap>}
        </Box>
        {fault && (
          <Box sx={{ px: 2 }}>
            <FaultNote what={fault.what} repair={fault.repair} />
          </Box>
        )}
        <Box sx={{ px: 2, pb: 2, display: "flex", gap: 1 }}>
          <Button
            color="primary"
            disabled={!said || Boolean(said.problem) || said.moved === 0}
            onClick={apply}
          >
            {matrix ? `Weave ${matrix.name}` : "Make the matrix"}
          </Button>
          {matrix && (
            <Button variant="text" sx={{ ml: "auto", color: ink.soft }} onClick={remove}>
              Delete matrix
            </Button>
          )}
        </Box>
      </Box>
    </>
  );
}

function sayMoved(moved: number): string {
  if (moved === 0) return "It lies so already: nothing would change.";
  return moved === 1 ? "1 cell would move." : `${moved} cells would move.`;
}

/** A square that holds all cells there are, for a first matrix. */
function first(show: WholeShow): Body {
  const side = Math.max(1, Math.ceil(Math.sqrt(show.fixtures.reduce((sum, f) => sum + f.cells, 0))));
  return { selection: "all", width: side, height: side, corner: "top left", along: "rows", ...PLAIN };
}

function Whole({ id, value, onChange }: { id: string; value: number; onChange: (value: number) => void }) {
  const [text, setText] = useState(String(value));
  return (
    <Box sx={{ display: "flex", gap: 0.5, alignItems: "center" }}>
      <Button
        aria-label="One less"
        onClick={() => {
          setText(String(value - 1));
          onChange(value - 1);
        }}
      >
        −
      </Button>
      <Field
        id={id}
        width={64}
        value={text}
        onChange={(next) => {
          setText(next);
          if (/^-?\d{1,7}$/.test(next.trim())) onChange(Number(next));
        }}
      />
      <Button
        aria-label="One more"
        onClick={() => {
          setText(String(value + 1));
          onChange(value + 1);
        }}
      >
        +
      </Button>
    </Box>
  );
}
