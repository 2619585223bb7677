import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { WholeShow } from "../../api/client";
import { useShownShow } from "../../api/show";
import { Cap, Empty, FaultNote, Pane, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { BeatPart } from "./BeatPart";
import { CuePicture } from "./CuePicture";
import { CueSide } from "./CueSide";
import { CueTable } from "./CueTable";
import { FadeBetween } from "./FadeBetween";
import { Favourites } from "./Favourites";
import { GoButtons, said } from "./GoButtons";
import { ListHead } from "./ListHead";
import { ListSide } from "./ListSide";
import { Masters } from "./Masters";
import { PagePart } from "./PagePart";
import { RunningLooks } from "./RunningLooks";
import { RunViews } from "./RunViews";
import { ShowTime } from "./ShowTime";
import { StartLooks } from "./StartLooks";
import { useCueEdits, useNewList, usePlaying, useShownList } from "./useCueList";
import { useRunKeys } from "./useRunKeys";

/** Station 5: the list at work, what is sent and what comes next, and every level in between. */
export function Run() {
  const { data, error } = useShownShow();
  const list = useShownList(data);
  useRunKeys(data);
  const edits = useCueEdits(list?.id ?? "");
  const chosen = useView((view) => view.cues);
  return (
    <Box
      component="main"
      sx={{
        display: "grid",
        gridTemplateColumns: "clamp(196px, 17vw, 280px) minmax(0,1fr) clamp(308px, 27.5vw, 520px)",
        minHeight: 0,
      }}
    >
      <Pane>
        <RunViews at="list" />
        <Scroll tabIndex={0} role="group" aria-label="Tempo, lists and masters">
          <BeatPart />
          {data && list && <ListSide show={data} list={list} edits={edits} />}
          {data && <Masters show={data} />}
          {data && <Favourites show={data} />}
        </Scroll>
      </Pane>
      <Pane>
        {!data ? (
          <Loading error={error} />
        ) : list ? (
          <ListWork show={data} list={list} edits={edits} />
        ) : (
          <NoList />
        )}
      </Pane>
      <Pane>
        <Scroll tabIndex={0} role="group" aria-label="What runs">
          {data && <RunningLooks show={data} />}
          {list && (
            <CueSide list={list} cues={list.cues.filter((one) => chosen.includes(one.id))} edits={edits} />
          )}
        </Scroll>
        <Box
          role="group"
          aria-label="By hand"
          // What is pressed stands where it is, whatever begins and ends above it.
          sx={{ flex: "none", maxHeight: "calc(100% - 150px)", overflowY: "auto" }}
        >
          {data && <StartLooks show={data} />}
          {data && <PagePart show={data} />}
          <ShowTime />
        </Box>
      </Pane>
    </Box>
  );
}

const HIGH = "clamp(150px, min(34vh, 21vw), 420px)";

interface WorkProps {
  show: WholeShow;
  list: NonNullable<ReturnType<typeof useShownList>>;
  edits: ReturnType<typeof useCueEdits>;
}

function ListWork({ show, list, edits }: WorkProps) {
  const playing = usePlaying(list.id);
  const [wrong, setWrong] = useState("");
  const cueOf = (id: string | undefined) => list.cues.find((one) => one.id === id);
  const fading = playing !== undefined && playing.fade_left_s > 0;
  const coming = fading ? cueOf(playing.cue) : undefined;
  const leaving = playing?.mix
    .filter((one) => one.cue !== playing.cue)
    .sort((a, b) => b.weight - a.weight)[0];
  const now = fading ? cueOf(leaving?.cue) : cueOf(playing?.cue);
  const following = playing ? cueOf(playing.next || undefined) : cueOf(list.first);
  const chosen = useView((view) => view.cues);
  const looked = chosen.length === 1 && chosen[0] !== playing?.cue ? cueOf(chosen[0]) : undefined;
  const next = looked ?? (fading && coming ? coming : following);
  return (
    <>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "minmax(0,1fr) 86px minmax(0,1fr)",
          px: 2,
          pt: 1.25,
          columnGap: 0,
        }}
      >
        <Title
          word="Now"
          cue={now ? `${now.number} ${now.name || now.looks}` : "nothing of this list"}
          full
        />
        <span />
        <Title
          word={looked && looked !== following ? "Chosen" : "Next"}
          cue={next ? `${next.number} ${next.name || next.looks}` : "nothing more"}
        />
        <Cap sx={{ pb: 0.5, color: ink.sea }}>
          sent <span style={{ color: ink.soft }}>read back from the wire</span>
        </Cap>
        <span />
        <Cap sx={{ pb: 0.5 }}>not sent yet: the same patch, at the end of its fade</Cap>
        <Box sx={{ border: `1px solid ${ink.hair2}`, borderRadius: "4px", overflow: "hidden" }}>
          <CuePicture show={show} label="Now, as sent" height={HIGH} />
        </Box>
        <FadeBetween playing={playing} coming={coming} height={HIGH} />
        <Box sx={{ border: `1px dashed ${ink.brassSoft}`, borderRadius: "4px", overflow: "hidden" }}>
          {next ? (
            <CuePicture
              show={show}
              label={`Next, ${said(next)}, not sent`}
              list={list.id}
              cue={next.id}
              height={HIGH}
            />
          ) : (
            <Box sx={{ height: HIGH, p: 2 }}>
              <Cap>The last cue stands until somebody goes on.</Cap>
            </Box>
          )}
        </Box>
      </Box>
      <GoButtons
        list={list}
        playing={playing}
        next={following}
        before={cueOf(playing?.before || undefined)}
      />
      <ListHead list={list} edits={edits} playing={playing} onWrong={setWrong} />
      {wrong && (
        <Box sx={{ px: 2 }}>
          <FaultNote what={wrong} />
        </Box>
      )}
      {list.cues.length ? (
        <CueTable list={list} edits={edits} playing={playing} />
      ) : (
        <Empty title="No cue yet">
          Start looks until it is as you want it, on the right or at Looks, and press Take what runs: that is
          a cue. Go then fades from one to the next.
        </Empty>
      )}
    </>
  );
}

function Title({ word, cue, full }: { word: string; cue: string; full?: boolean }) {
  return (
    <Box sx={{ display: "flex", alignItems: "baseline", gap: 1, minWidth: 0, fontSize: 19, fontWeight: 600 }}>
      <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" style={{ flex: "none" }}>
        <circle cx="7" cy="7" r="6" fill={full ? ink.brass : "none"} stroke={ink.brass} strokeWidth="1.4" />
        {!full && <path d="M7 1a6 6 0 0 1 0 12Z" fill={ink.brass} />}
      </svg>
      <span style={{ color: ink.brass }}>{word}</span>
      <span title={cue} style={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
        {cue}
      </span>
    </Box>
  );
}

function NoList() {
  const add = useNewList();
  return (
    <Empty title="No cue list yet">
      A list is the order of an evening: each cue says which looks play, how long it takes to come, and what
      comes then. Go, or Space, fades to the next.
      <Box sx={{ mt: 2 }}>
        <Button color="primary" onClick={() => void add("Evening")}>
          Make a list
        </Button>
      </Box>
    </Empty>
  );
}
