import { Box, Button } from "@mui/material";
import { useState } from "react";
import { answer, client, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, PaneHead, Scroll } from "../../components/atoms";
import { PictureCanvas } from "../../components/PictureCanvas";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { NewMatrix } from "./NewMatrix";

/** All matrices with their sent pictures. */
export function MatrixList({ show, chosen }: { show: WholeShow; chosen: string | undefined }) {
  const edit = useEdit();
  const [making, setMaking] = useState(false);
  const add = async () => {
    const id = newId();
    const name = `Matrix ${show.matrices.length + 1}`;
    const body = { id, name, width: 4, height: 4 };
    if (await edit(() => answer(client.POST("/api/matrices", { body })))) useView.setState({ matrix: id });
    setMaking(false);
  };
  return (
    <>
      <PaneHead title="Matrices">
        <Button aria-pressed={making} onClick={() => setMaking(!making)}>
          New
        </Button>
      </PaneHead>
      {making && <NewMatrix show={show} onEmpty={() => void add()} onDone={() => setMaking(false)} />}
      <Scroll>
        {show.matrices.map((matrix) => {
          const scale = Math.min(150 / matrix.width, 44 / matrix.height);
          const on = matrix.id === chosen;
          return (
            <Box
              key={matrix.id}
              component="button"
              aria-pressed={on}
              onClick={() => useView.setState({ matrix: matrix.id })}
              sx={{
                display: "block",
                width: "100%",
                textAlign: "left",
                font: "inherit",
                color: "inherit",
                background: on ? ink.brassGround : "none",
                border: 0,
                borderTop: `1px solid ${ink.hair}`,
                borderLeft: `3px solid ${on ? ink.brass : "transparent"}`,
                px: 1.5,
                py: 1.25,
                cursor: "pointer",
                "&:hover": { background: on ? ink.brassGround : ink.row },
              }}
            >
              {matrix.name}
              <Cap sx={{ mb: 0.75 }}>
                {matrix.width} × {matrix.height}
              </Cap>
              <PictureCanvas
                matrix={matrix.id}
                label={`${matrix.name} in the list`}
                width={Math.max(6, matrix.width * scale)}
                height={Math.max(4, matrix.height * scale)}
              />
            </Box>
          );
        })}
      </Scroll>
    </>
  );
}
