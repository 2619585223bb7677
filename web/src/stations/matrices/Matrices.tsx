import { Box } from "@mui/material";
import { useShow } from "../../api/show";
import { Empty, Pane } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { useView } from "../../stores/view";
import { MatrixList } from "./MatrixList";
import { MatrixWork } from "./MatrixWork";
import { Weave } from "./Weave";

/** Station 3: cells in their places, compared with how they hang. */
export function Matrices() {
  const { data, error } = useShow();
  const chosen = useView((view) => view.matrix);
  const matrix = data?.matrices.find((m) => m.id === chosen) ?? data?.matrices[0];
  return (
    <Box
      component="main"
      sx={{ display: "grid", gridTemplateColumns: "192px minmax(0,1fr) 320px", minHeight: 0 }}
    >
      <Pane>{data && <MatrixList show={data} chosen={matrix?.id} />}</Pane>
      <Pane>
        {!data ? (
          <Loading error={error} />
        ) : matrix ? (
          <MatrixWork key={matrix.id} show={data} matrix={matrix} />
        ) : (
          <Empty title="No matrix yet">
            {data.fixtures.length
              ? "Say at the right how many columns and rows there are and how the cells are wired; then make it."
              : "A matrix gives cells their places. Add fixtures at the Rig first (key 1)."}
          </Empty>
        )}
      </Pane>
      <Pane>{data && <Weave key={matrix?.id ?? "new"} show={data} matrix={matrix} />}</Pane>
    </Box>
  );
}
