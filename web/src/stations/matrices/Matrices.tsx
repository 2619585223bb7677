import { Box } from "@mui/material";
import { useState } from "react";
import { useShow } from "../../api/show";
import { Cap, Empty, Pane } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { useView } from "../../stores/view";
import { MatrixList } from "./MatrixList";
import { MatrixWork } from "./MatrixWork";
import { Weave, type Woven } from "./Weave";
import { WovenPicture } from "./WovenPicture";

/** Station 3: cells in their places, compared with how they hang. */
export function Matrices() {
  const { data, error } = useShow();
  const chosen = useView((view) => view.matrix);
  const [woven, setWoven] = useState<Woven | null>(null);
  const matrix = data?.matrices.find((m) => m.id === chosen) ?? data?.matrices[0];
  return (
    <Box
      component="main"
      sx={{
        display: "grid",
        gridTemplateColumns: "clamp(160px, 15vw, 280px) minmax(0,1fr) clamp(290px, 25vw, 440px)",
        minHeight: 0,
      }}
    >
      <Pane>{data && <MatrixList show={data} chosen={matrix?.id} />}</Pane>
      <Pane>
        {!data ? (
          <Loading error={error} />
        ) : matrix ? (
          <MatrixWork key={matrix.id} show={data} matrix={matrix} />
        ) : (
          <>
            <Empty title="No matrix yet">
              {data.fixtures.length
                ? "Say at the right how many columns and rows there are and how the cells are wired; then make it."
                : "A matrix gives cells their places. Add fixtures at the Rig first (key 1)."}
            </Empty>
            {woven && data.fixtures.length > 0 && (
              <Box sx={{ px: 2 }}>
                <WovenPicture {...woven} large />
                <Cap sx={{ px: 2, pt: 1 }}>
                  So it would be: the strand from its first cell, ringed, square by square. Nothing is made
                  yet.
                </Cap>
              </Box>
            )}
          </>
        )}
      </Pane>
      <Pane>
        {data && <Weave key={matrix?.id ?? "new"} show={data} matrix={matrix} onWoven={setWoven} />}
      </Pane>
    </Box>
  );
}
