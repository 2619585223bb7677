import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answer, client, type Fault, isFault, type Schemas } from "../api/client";
import { saveShow } from "../api/download";
import { newId } from "../api/person";
import { sendForm } from "../api/sendForm";
import { queries, refreshShow } from "../api/show";
import { fixturesOf } from "../model/names";
import { useView } from "../stores/view";
import { ink } from "../theme/tokens";
import { Cap, FaultNote } from "./atoms";
import { FileChooser } from "./FileChooser";
import { fetched } from "./fetched";
import { Popover } from "./LazyMui";

type Listed = Schemas["ShowListed"];

const NOTHING_CHOSEN = {
  fixtures: [],
  parts: [],
  emitter: "",
  matrix: null,
  look: null,
  line: null,
  universe: 1,
};

/** Fetched when the list is opened first. */
const ShowList = fetched(async () => (await import("./ShowList")).ShowList);
const LoadedOpen = fetched(async () => (await import("./ShowList")).LoadedOpen);

/** The shows there are: open another, begin a new one, save this one to a file, load one from a file. */
export function ShowMenu() {
  const button = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  const [busy, setBusy] = useState("");
  const [fault, setFault] = useState<Fault | null>(null);
  const { data } = useQuery<Listed[], Fault>({
    queryKey: ["shows"],
    queryFn: async () => (await answer(client.GET("/api/shows"))) as Listed[],
    enabled: open,
  });
  /** `opens`: another show is open afterwards, and what was chosen is of the one before. */
  const run = async (what: string, task: () => Promise<unknown>, opens = true) => {
    setBusy(what);
    setFault(null);
    try {
      await task();
      if (opens) useView.setState(NOTHING_CHOSEN);
      await refreshShow();
      await queries.invalidateQueries({ queryKey: ["shows"] });
      if (opens) setOpen(false);
    } catch (problem) {
      if (!isFault(problem)) throw problem;
      setFault(problem);
    }
    setBusy("");
  };
  const [loaded, setLoaded] = useState("");
  const load = (file: File) => {
    const id = newId();
    setLoaded("");
    return run(
      `loading ${file.name}`,
      async () => {
        await sendForm("/api/shows/file", { id, file });
        setLoaded(id);
      },
      false,
    );
  };
  const openShow = (one: Listed) =>
    run("opening", () =>
      answer(client.POST("/api/shows/{show_id}/open", { params: { path: { show_id: one.id } } })),
    );
  const came = data?.find((one) => one.id === loaded && !one.is_open);
  return (
    <>
      <Button
        ref={button}
        variant="text"
        aria-label="Shows"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        sx={{ px: 0.5, width: 28, minWidth: 28, color: ink.soft }}
      >
        ▾
      </Button>
      <Popover
        open={open}
        anchorEl={button.current}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { sx: { width: 340, border: `1px solid ${ink.hair2}` } } }}
      >
        <Box sx={{ p: 1.5 }}>
          <Box sx={{ display: "flex", alignItems: "center", mb: 0.5 }}>
            <b style={{ fontWeight: 600 }}>Shows</b>
            <Button
              sx={{ ml: "auto" }}
              onClick={() =>
                run("making a show", () =>
                  answer(client.POST("/api/shows", { body: { id: newId(), name: "New show" } })),
                )
              }
            >
              New show
            </Button>
          </Box>
          <ShowList
            all={(data ?? []).filter((show) => !show.is_template)}
            onOpen={openShow}
            onDelete={(one) =>
              run(
                "deleting",
                () =>
                  answer(client.DELETE("/api/shows/{show_id}", { params: { path: { show_id: one.id } } })),
                false,
              )
            }
            onRestore={(one) =>
              run(
                "bringing it back",
                () =>
                  answer(
                    client.POST("/api/shows/{show_id}/restore", { params: { path: { show_id: one.id } } }),
                  ),
                false,
              )
            }
          />
          <Templates
            all={(data ?? []).filter((show) => show.is_template)}
            onStart={(one) =>
              run(`starting from ${one.name}`, () =>
                answer(client.POST("/api/shows", { body: { id: newId(), name: "New show", like: one.id } })),
              )
            }
            onForget={(one) =>
              run(
                "forgetting a template",
                () =>
                  answer(
                    client.DELETE("/api/shows/templates/{show_id}", {
                      params: { path: { show_id: one.id } },
                    }),
                  ),
                false,
              )
            }
          />
          <Box sx={{ display: "flex", gap: 1, mt: 1, flexWrap: "wrap" }}>
            <Button
              onClick={() =>
                run(
                  "keeping a template",
                  () =>
                    answer(
                      client.POST("/api/shows/templates", {
                        body: {
                          id: newId(),
                          name: `Like ${data?.find((one) => one.is_open)?.name ?? "this"}`,
                        },
                      }),
                    ),
                  false,
                )
              }
            >
              Keep as template
            </Button>
            <Button disabled={busy !== ""} onClick={() => run("saving and reading it back", saveShow, false)}>
              Save to a file
            </Button>
            <FileChooser
              label="Show file"
              accept=".zip,application/zip"
              disabled={busy !== ""}
              onFiles={([file]) => file && load(file)}
            >
              Load a file
            </FileChooser>
          </Box>
          {busy && (
            <Cap role="status" sx={{ mt: 1 }}>
              {busy} ...
            </Cap>
          )}
          {came && (
            <Box role="status" sx={{ display: "flex", alignItems: "center", gap: 1, mt: 1, fontSize: 13 }}>
              <span>
                Loaded {came.name}: {fixturesOf(came)}.
              </span>
              <LoadedOpen show={came} onOpen={openShow} />
            </Box>
          )}
          {fault && <FaultNote what={fault.what} repair={fault.repair} />}
          <Cap sx={{ mt: 1 }}>
            The lights go over to a show as it is opened. A file holds everything of the show, its clips too.
          </Cap>
        </Box>
      </Popover>
    </>
  );
}

interface TemplatesProps {
  all: Listed[];
  onStart: (one: Listed) => void;
  onForget: (one: Listed) => void;
}

/** Shows that were kept to start others from. */
function Templates({ all, onStart, onForget }: TemplatesProps) {
  if (!all.length) return null;
  return (
    <Box sx={{ mt: 1 }}>
      <Cap>Start from</Cap>
      {all.map((one) => (
        <Box key={one.id} sx={{ display: "flex", alignItems: "center", gap: 0.5 }}>
          <Button
            variant="text"
            onClick={() => onStart(one)}
            sx={{ flex: 1, justifyContent: "flex-start", px: 0.5 }}
          >
            {one.name}
          </Button>
          <Button variant="text" aria-label={`Forget ${one.name}`} onClick={() => onForget(one)}>
            ×
          </Button>
        </Box>
      ))}
    </Box>
  );
}
