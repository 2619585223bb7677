import { Box } from "@mui/material";
import { useState } from "react";
import { useParams } from "wouter";
import { useShow } from "../../../api/show";
import { Empty, FaultNote, Pane, Scroll } from "../../../components/atoms";
import { Loading } from "../../../components/Loading";
import { RigHead } from "../RigHead";
import { ChangeBar } from "./ChangeBar";
import { ChannelEditor } from "./ChannelEditor";
import { ProfileAbout } from "./ProfileAbout";
import { ProfileList } from "./ProfileList";
import { ProfileModes } from "./ProfileModes";
import { useProfileDraft } from "./useProfileDraft";

/** Which channel of a mode is being edited. */
export interface At {
  mode: number;
  block: number;
  /** In the shared channels, or in those of a cell. */
  part: "shared" | "cell";
  index: number;
}

/** The library, and the editor of one profile: its modes as rulers of channels. */
export function Profiles() {
  const { profile: id } = useParams<{ profile?: string }>();
  const { data: show, error } = useShow();
  const draft = useProfileDraft(id);
  const [at, setAt] = useState<At>({ mode: 0, block: 0, part: "shared", index: 0 });
  const { profile } = draft;
  if (!show) return <Loading error={error} />;
  return (
    <Box
      component="main"
      sx={{ display: "grid", gridTemplateColumns: "300px minmax(0,1fr) 332px", minHeight: 0 }}
    >
      <Pane>
        <RigHead at="profiles" />
        <ProfileList show={show} chosen={id ?? ""} />
      </Pane>
      <Pane>
        {draft.error && <FaultNote what={draft.error.what} repair={draft.error.repair} />}
        {profile ? (
          <>
            <Scroll>
              <ProfileAbout key={profile.id} profile={profile} onChange={draft.change} />
              <ProfileModes profile={profile} at={at} onAt={setAt} onChange={draft.change} />
            </Scroll>
            {draft.plan && <ChangeBar plan={draft.plan} onApply={draft.apply} onTakeBack={draft.takeBack} />}
          </>
        ) : (
          !draft.error && (
            <Empty title="Choose a profile, or make one">
              A profile is what a fixture is: its modes, and in each the list of channels that must equal the
              one set on the fixture. Search by name, kind, emitter or number of channels.
            </Empty>
          )
        )}
      </Pane>
      <Pane aria-label="Channel">
        {profile && (
          <ChannelEditor show={show} profile={profile} at={at} onAt={setAt} onChange={draft.change} />
        )}
      </Pane>
    </Box>
  );
}
