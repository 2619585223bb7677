import { Box, Button } from "@mui/material";
import { useEffect, useState } from "react";
import type { WholeShow } from "../../api/client";
import { useShownShow } from "../../api/show";
import { Cap, Chip, Empty, FaultNote, Pane, PaneHead, Part, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { Typed } from "../../components/Typed";
import type { Item, Page } from "../../page/shapes";
import { openPage } from "../../stores/page";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { RunViews } from "../run/RunViews";
import { ItemSide } from "./ItemSide";
import { PageGrid } from "./PageGrid";
import { type PageEdits, useNewPage, usePageEdits } from "./usePages";

/** Run, Pages: pads and faders for a tablet, laid out; a touch here chooses and moves nothing. */
export function Pages() {
  const { data, error } = useShownShow();
  const chosen = useView((view) => view.page);
  const page = data?.pages.find((one) => one.id === chosen) ?? data?.pages[0];
  return (
    <Box
      component="main"
      sx={{
        display: "grid",
        gridTemplateColumns: "200px minmax(0,1fr) clamp(320px, 29vw, 480px)",
        minHeight: 0,
      }}
    >
      {!data ? (
        <Pane>
          <Loading error={error} />
        </Pane>
      ) : (
        <Work show={data} page={page} />
      )}
    </Box>
  );
}

function Work({ show, page }: { show: WholeShow; page: Page | undefined }) {
  const edits = usePageEdits(page?.id ?? "");
  const item = useView((view) => view.item);
  const [wrong, setWrong] = useState("");
  const id = page?.id ?? "";
  useEffect(() => {
    openPage(id);
    return () => openPage("");
  }, [id]);
  const chosen = page?.items.find((one) => one.id === item);
  return (
    <>
      <Pane>
        <RunViews at="pages" />
        <PageList show={show} here={page?.id} />
        {page && <Adding edits={edits} show={show} onWrong={setWrong} />}
      </Pane>
      <Pane>
        {page ? (
          <>
            <PageHead page={page} edits={edits} />
            {wrong && (
              <Box sx={{ px: 2 }}>
                <FaultNote what={wrong} />
              </Box>
            )}
            <PageGrid show={show} page={page} edits={edits} onWrong={setWrong} />
          </>
        ) : (
          <NoPage />
        )}
      </Pane>
      <Pane>
        <Scroll tabIndex={0} role="group" aria-label="Chosen item">
          {page && chosen ? (
            <ItemSide key={chosen.id} item={chosen} edits={edits} />
          ) : page ? (
            <Joining page={page} edits={edits} />
          ) : null}
        </Scroll>
      </Pane>
    </>
  );
}

function PageList({ show, here }: { show: WholeShow; here: string | undefined }) {
  const add = useNewPage();
  return (
    <Box>
      <PaneHead title="Pages">
        <Button onClick={() => void add(show.pages.length ? `Page ${show.pages.length + 1}` : "Quay")}>
          New
        </Button>
      </PaneHead>
      {show.pages.map((one) => (
        <Box
          key={one.id}
          component="button"
          aria-current={one.id === here}
          onClick={() => useView.setState({ page: one.id, item: "" })}
          sx={{
            display: "block",
            width: "100%",
            textAlign: "left",
            font: "inherit",
            color: ink.text,
            px: 2,
            py: 0.75,
            border: 0,
            cursor: "pointer",
            background: one.id === here ? ink.brassGround : "none",
            boxShadow: one.id === here ? `inset 3px 0 ${ink.brass}` : "none",
          }}
        >
          <b style={{ fontWeight: 600 }}>{one.name}</b>
          <Cap>
            /page/{one.slug}, {one.items.length} items
          </Cap>
        </Box>
      ))}
    </Box>
  );
}

const ADDED: readonly (readonly [Item["kind"], string, "" | "upright" | "lying"])[] = [
  ["pad", "Pad", ""],
  ["fader", "Fader, upright", "upright"],
  ["fader", "Fader, lying", "lying"],
  ["crossfader", "Crossfader", ""],
  ["list", "Cue list", ""],
  ["tap", "Tempo tap", ""],
  ["words", "Words only", ""],
];

function Adding({
  edits,
  show,
  onWrong,
}: {
  edits: PageEdits;
  show: WholeShow;
  onWrong: (what: string) => void;
}) {
  const handles = (kind: Item["kind"]): string[] => {
    const [first, second] = show.looks;
    const list = show.cue_lists.find((one) => one.main);
    if (kind === "pad") return first ? [`look/${first.id}/on`] : ["blackout"];
    if (kind === "fader") return ["master"];
    if (kind === "crossfader") return first && second ? [`look/${first.id}/on`, `look/${second.id}/on`] : [];
    return kind === "list" && list ? [`list/${list.id}/go`] : [];
  };
  return (
    <Part role="group" aria-label="Add to the page">
      <b style={{ fontWeight: 600 }}>Add</b>
      <Box sx={{ display: "flex", flexDirection: "column", gap: 0.5, mt: 1 }}>
        {ADDED.map(([kind, word, way]) => (
          <Chip
            key={word}
            onClick={() =>
              void edits
                .add(kind, handles(kind), {
                  ...(way === "lying" ? { w: 6, h: 1 } : {}),
                  ...(kind === "words" ? { words: "Words" } : {}),
                })
                .then(onWrong)
            }
          >
            {word}
          </Chip>
        ))}
      </Box>
    </Part>
  );
}

function PageHead({ page, edits }: { page: Page; edits: PageEdits }) {
  return (
    <Box
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        px: 2,
        minHeight: 56,
        borderBottom: `1px solid ${ink.hair}`,
      }}
    >
      <Box sx={{ width: 150, "& input": { fontSize: 19, fontWeight: 650 } }}>
        <Typed quiet label="Name of the page" value={page.name} onCommit={(name) => edits.change({ name })} />
      </Box>
      <Cap sx={{ fontSize: 13 }}>/page/</Cap>
      <Box sx={{ width: 130 }}>
        <Typed label="Address of the page" value={page.slug} onCommit={(slug) => edits.change({ slug })} />
      </Box>
      <Button sx={{ ml: "auto" }} href={`/page/${page.slug}`} target="_blank">
        Open it
      </Button>
      <Button onClick={() => useView.setState({ item: "" })}>Address to scan</Button>
    </Box>
  );
}

/** How a tablet comes to the page. */
function Joining({ page, edits }: { page: Page; edits: PageEdits }) {
  return (
    <Box sx={{ p: 2 }}>
      <b style={{ fontWeight: 600 }}>On a tablet or a phone</b>
      <Cap sx={{ fontSize: 13, mt: 0.5, mb: 1.5 }}>
        Scan it, or open /page/{page.slug}. Where a pass code is asked, it is that of the role run.
      </Cap>
      <img
        src={`/api/pages/${page.id}/qr?rev=${page.rev}`}
        alt={`Address of the page ${page.name}, to scan`}
        style={{ width: 190, borderRadius: 4, background: "#fff" }}
      />
      <Cap sx={{ mt: 1.5, fontSize: 13 }}>
        Choose an item to say what it moves. Drag it to move it, its corner to make it larger; arrows move it,
        with Shift they change its size.
      </Cap>
      <Box sx={{ display: "flex", gap: 1, mt: 2 }}>
        <Button onClick={() => void edits.copy()}>Copy this page</Button>
        <Button
          sx={{ color: ink.soft }}
          onClick={() => {
            useView.setState({ page: null, item: "" });
            void edits.remove();
          }}
        >
          Delete it
        </Button>
      </Box>
    </Box>
  );
}

function NoPage() {
  const add = useNewPage();
  return (
    <Empty title="No page yet">
      A page is a screen of large pads and faders for a tablet at the lamp: looks, levels, the list's Go. It
      has an address of its own and shows what is true, whoever started it.
      <Box sx={{ mt: 2 }}>
        <Button color="primary" onClick={() => void add("Quay")}>
          Make a page
        </Button>
      </Box>
    </Empty>
  );
}
