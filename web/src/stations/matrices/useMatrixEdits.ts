import { answer, client, type MatrixView } from "../../api/client";
import { useEdit } from "../../api/show";
import type { Bead } from "../../model/placements";
import { readPlace, type Square } from "../../model/squares";

/** Everything that can be done to the cells of one matrix; each resolves to whether it was done. */
export function useMatrixEdits(matrix: MatrixView) {
  const edit = useEdit();
  const params = { path: { matrix_id: matrix.id } };
  const cellOf = (bead: Bead) => ({ fixture: bead.fixture.id, cell: bead.cell });
  return {
    rename: (name: string) =>
      edit(() =>
        answer(client.PATCH("/api/matrices/{matrix_id}", { params, body: { name, rev: matrix.rev } })),
      ),
    /** A place and size as typed; resolves to what is wrong with it. */
    freely: (bead: Bead, text: string) => {
      const read = readPlace(text);
      if (typeof read === "string") return read;
      return new Promise<string | undefined>((resolve) => {
        const body = { cell: cellOf(bead), ...read };
        void edit(
          () => answer(client.POST("/api/matrices/{matrix_id}/free", { params, body })),
          (fault) => resolve(`${fault.what} ${fault.repair}`),
        ).then((done) => done && resolve(undefined));
      });
    },
    exchange: (a: Square, b: Square) =>
      edit(() => answer(client.POST("/api/matrices/{matrix_id}/exchange", { params, body: { a, b } }))),
    lift: (square: Square) =>
      edit(() =>
        answer(
          client.POST("/api/matrices/{matrix_id}/lift", { params, body: { squares: [square], cells: [] } }),
        ),
      ),
    liftCells: (beads: Bead[]) =>
      edit(() => {
        const body = { squares: [], cells: beads.map(cellOf) };
        return answer(client.POST("/api/matrices/{matrix_id}/lift", { params, body }));
      }),
    put: (fixture: string, cell: number, to: Square) =>
      edit(() => {
        const body = { cell: { fixture, cell: String(cell) }, to };
        return answer(client.POST("/api/matrices/{matrix_id}/place", { params, body }));
      }),
  };
}
