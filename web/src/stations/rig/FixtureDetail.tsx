import { Box, Button } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link } from "wouter";
import { answer, client, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, Empty, FaultNote, Num, Part, Scroll } from "../../components/atoms";
import { watchLevels } from "../../stores/live";
import { chooseFixtures, useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import type { BatchKind } from "./BatchLine";
import { BlocksPart } from "./BlocksPart";
import { ChannelRuler } from "./ChannelRuler";
import { ColourPart } from "./ColourPart";
import { GroupsPart } from "./GroupsPart";
import { Highlight } from "./Highlight";
import { KeepLit } from "./KeepLit";
import { ManualPart } from "./manual/ManualPart";
import { PresetsPart } from "./manual/PresetsPart";

const BATCHES: [BatchKind, string][] = [
  ["number", "Renumber"],
  ["name", "Rename"],
  ["mode", "Change mode"],
  ["copy", "Copy"],
];

/** The right edge of the Rig: the chosen fixture, its channels as they are sent. */
export function FixtureDetail({ show, onBatch }: { show: WholeShow; onBatch: (kind: BatchKind) => void }) {
  const chosen = useView((view) => view.fixtures);
  const edit = useEdit();
  const fixtures = show.fixtures.filter((f) => chosen.includes(f.id));
  const fixture = fixtures.at(-1);
  const universe = fixture?.spans[0]?.[0];
  const watched = fixture?.spans.map(([one]) => one).join() ?? "";
  useEffect(() => {
    const stops = watched ? watched.split(",").map((one) => watchLevels(Number(one))) : [];
    return () => {
      for (const stop of stops) stop();
    };
  }, [watched]);
  const ids = fixtures.map((one) => one.id);
  const going = useQuery({
    queryKey: ["deletion", show.show.revision, ids],
    queryFn: () => answer(client.POST("/api/fixtures/deletion", { body: { ids } })),
    enabled: ids.length > 0,
    placeholderData: keepPreviousData,
  }).data?.says;
  if (!fixture)
    return (
      <Empty title="No fixture chosen">
        Click a row, or use the arrows. Number, name and address are edited where they stand.
      </Empty>
    );
  const profile = show.profiles.find((p) => p.id === fixture.profile);
  const remove = async () => {
    await edit(() => answer(client.POST("/api/fixtures/delete", { body: { ids } })));
    chooseFixtures([]);
  };
  return (
    <Scroll>
      <Box sx={{ p: 2, display: "flex", gap: 1, alignItems: "center" }}>
        <Box
          sx={{
            font: `600 20px ${mono}`,
            color: ink.ground,
            background: ink.brass,
            borderRadius: "3px",
            px: 1,
            lineHeight: "30px",
          }}
        >
          {fixture.number}
        </Box>
        <Box sx={{ minWidth: 0, flex: 1 }}>
          <Box sx={{ fontSize: 16, fontWeight: 600, overflow: "hidden", textOverflow: "ellipsis" }}>
            {fixture.name}
          </Box>
          <Cap>{fixtures.length > 1 ? `and ${fixtures.length - 1} more chosen` : "edit it in its row"}</Cap>
        </Box>
        <Highlight fixtures={fixtures.map((f) => f.id)} />
      </Box>
      <Part>
        <Box sx={{ fontWeight: 600 }}>
          {profile?.name ?? "no profile"}{" "}
          <Box component="span" sx={{ color: ink.soft, fontWeight: 400 }}>
            by {profile?.maker}
          </Box>
        </Box>
        <Box sx={{ mt: 0.5, display: "flex", alignItems: "baseline", gap: 1, whiteSpace: "nowrap" }}>
          <span>
            Mode <Num>{fixture.mode}</Num>
          </span>
          <Cap
            sx={{ overflow: "hidden", textOverflow: "ellipsis" }}
            title="must equal the mode set on the fixture"
          >
            must equal the mode set on the fixture
          </Cap>
        </Box>
        {fixture.spans.length === 0 && <Cap>It has no address: type one into its row, such as U1.1.</Cap>}
        {fixture.spans.map(([u, first, last]) => (
          <Box key={u} sx={{ display: "flex", justifyContent: "space-between", lineHeight: "24px" }}>
            <Num>
              U{u}.{first} to {last}
            </Num>
            <Cap sx={{ lineHeight: "24px" }}>{last - first + 1} channels</Cap>
          </Box>
        ))}
        {fixture.conflict.length > 0 && (
          <FaultNote
            what={`It shares channels with ${fixture.conflict.join(", ")}.`}
            repair="Move one of them: +1 in the address field moves by one."
          />
        )}
        <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", mt: 1 }}>
          {BATCHES.map(([kind, text]) => (
            <Button key={kind} onClick={() => onBatch(kind)}>
              {text}
            </Button>
          ))}
          <Button component={Link} to={`/rig/profiles/${fixture.profile}`}>
            Profile
          </Button>
          <KeepLit chosen={fixtures} all={show.fixtures} />
        </Box>
      </Part>
      <BlocksPart fixture={fixture} chosen={fixtures} />
      {universe !== undefined && <ChannelRuler fixture={fixture} profile={profile} />}
      {universe !== undefined && (
        <>
          <ManualPart key={fixture.id} fixture={fixture} chosen={fixtures} show={show} />
          <PresetsPart chosen={fixtures} show={show} />
        </>
      )}
      <ColourPart fixtures={fixtures} />
      <GroupsPart show={show} />
      <Part>
        <Button color="error" onClick={remove}>
          Delete {fixtures.length > 1 ? `${fixtures.length} fixtures` : "fixture"}
        </Button>
        <Cap sx={{ mt: 1, lineHeight: "17px" }} aria-label="What would go">
          {going?.join(" ")} Undo brings everything back.
        </Cap>
      </Part>
    </Scroll>
  );
}
