import { Box, Button } from "@mui/material";
import { memo, useState } from "react";
import { answer, client, problemOf, type Schemas, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow, useEdit } from "../../api/show";
import { Cap, FaultNote, PaneHead } from "../../components/atoms";
import { HandleFinder } from "../../components/HandleFinder";
import { Typed } from "../../components/Typed";
import { act } from "../../stores/hands";
import { ink } from "../../theme/tokens";

/** Values of chosen handles, kept under a name: called up here, by a cue, a pad, the clock. */
export const Favourites = memo(function Favourites({ show }: { show: WholeShow }) {
  const edit = useEdit();
  const [making, setMaking] = useState(false);
  const [open, setOpen] = useState("");
  const [wrong, setWrong] = useState("");
  const said = async (run: () => Promise<unknown>): Promise<string> => {
    const problem = await problemOf(run);
    await refreshShow();
    setWrong(problem);
    return problem;
  };
  const add = async (handle: string) => {
    const id = newId();
    const body = { id, name: `Favourite ${show.favourites.length + 1}`, handles: [handle] };
    const problem = await said(() => answer(client.POST("/api/favourites", { body })));
    if (!problem) {
      setMaking(false);
      setOpen(id);
    }
    return problem;
  };
  const change = (id: string, body: Schemas["FavouritePatch"]) =>
    said(() =>
      answer(
        client.PATCH("/api/favourites/{favourite_id}", { params: { path: { favourite_id: id } }, body }),
      ),
    );
  return (
    <Box role="group" aria-label="Favourites" sx={{ borderTop: `1px solid ${ink.hair}` }}>
      <PaneHead title="Favourites">
        <Button aria-expanded={making} onClick={() => setMaking(!making)}>
          Keep
        </Button>
      </PaneHead>
      <Box sx={{ px: 2, pb: 1.5 }}>
        {making && (
          <Box sx={{ pb: 1 }}>
            <Cap>What is kept, as it is now:</Cap>
            <HandleFinder onAdd={add} />
          </Box>
        )}
        {wrong && <FaultNote what={wrong} />}
        {!show.favourites.length && !making && (
          <Cap sx={{ fontSize: 13 }}>Values of levels and looks, kept to be called up again.</Cap>
        )}
        {show.favourites.map((one) => (
          <Box key={one.id} sx={{ py: 0.25 }}>
            <Box sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
              <Box sx={{ flex: 1, minWidth: 0, ml: -0.75 }}>
                <Typed
                  quiet
                  label={`Name of the favourite ${one.name}`}
                  value={one.name}
                  onCommit={(name) => change(one.id, { name, again: false })}
                />
              </Box>
              <Button onClick={() => act(`favourite/${one.id}/recall`, null)}>Recall</Button>
              <Button
                variant="text"
                aria-expanded={open === one.id}
                aria-label={`More of ${one.name}`}
                sx={{ minWidth: 0, color: ink.soft }}
                onClick={() => setOpen(open === one.id ? "" : one.id)}
              >
                More
              </Button>
            </Box>
            {open === one.id && (
              <Box sx={{ pb: 1 }}>
                {one.values.map((each) => (
                  <Cap key={each.handle}>{each.words}</Cap>
                ))}
                <HandleFinder
                  onAdd={(handle) =>
                    change(one.id, {
                      handles: [...one.values.map((each) => each.handle), handle],
                      again: false,
                    })
                  }
                />
                <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
                  <Button onClick={() => void change(one.id, { again: true })}>Keep as it is now</Button>
                  <Button
                    sx={{ color: ink.soft }}
                    onClick={() =>
                      void edit(() =>
                        answer(
                          client.DELETE("/api/favourites/{favourite_id}", {
                            params: { path: { favourite_id: one.id } },
                          }),
                        ),
                      )
                    }
                  >
                    Delete
                  </Button>
                </Box>
              </Box>
            )}
          </Box>
        ))}
      </Box>
    </Box>
  );
});
