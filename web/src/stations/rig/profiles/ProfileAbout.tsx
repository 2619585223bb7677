import { Box, Button, Link } from "@mui/material";
import { useLocation } from "wouter";
import { answer, client, type Schemas } from "../../../api/client";
import { newId } from "../../../api/person";
import { sendForm } from "../../../api/sendForm";
import { queries, useEdit, useShow } from "../../../api/show";
import { Cap, Chip } from "../../../components/atoms";
import { Choices } from "../../../components/Choices";
import { FileChooser } from "../../../components/FileChooser";
import { Typed } from "../../../components/Typed";
import { freeName } from "../../../model/names";
import { say } from "../../../stores/notices";
import { ink } from "../../../theme/tokens";
import { GuardChip } from "./GuardChip";
import type { Whole } from "./useProfileDraft";

const KINDS = ["lamp", "strip", "bar", "head", "laser", "other"] as const;

interface AboutProps {
  profile: Whole;
  onChange: (next: Whole) => void;
}

/** Who makes it, what it is, and how much of it can be believed. */
export function ProfileAbout({ profile, onChange }: AboutProps) {
  return (
    <Box sx={{ px: 2, pt: 1.5, pb: 1.5, display: "grid", gap: 1 }}>
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <Box sx={{ flex: 1, fontSize: 16, fontWeight: 600 }}>
          <Typed
            label="Name of the profile"
            value={profile.name}
            onCommit={(name) => (name.trim() ? onChange({ ...profile, name }) : "A profile has a name.")}
          />
        </Box>
        <Cap>by</Cap>
        <Typed
          width={170}
          label="Maker"
          value={profile.maker}
          onCommit={(maker) =>
            maker.trim() ? onChange({ ...profile, maker }) : "Type a maker, such as Own."
          }
        />
      </Box>
      <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap", alignItems: "center" }}>
        <Choices
          names={KINDS.map((kind) => [kind, kind] as const)}
          chosen={profile.kind}
          onChoose={(kind) => onChange({ ...profile, kind })}
        />
        <Box sx={{ width: "1px", height: 20, background: ink.hair2, mx: 0.5 }} />
        <Chip
          active={profile.verified}
          aria-pressed={profile.verified}
          title="Somebody has compared it with the real fixture"
          onClick={() => onChange({ ...profile, verified: !profile.verified })}
        >
          {profile.verified ? "✓ verified on the fixture" : "not verified"}
        </Chip>
        <GuardChip
          profile={profile.id}
          name={profile.name}
          guarded={profile.guarded}
          onGuard={() => onChange({ ...profile, guarded: true })}
        />
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "46px 1fr 40px 1fr", gap: 1, alignItems: "center" }}>
        <Cap>Origin</Cap>
        <Typed
          label="Origin"
          value={profile.origin}
          placeholder="the maker's manual, measured ..."
          onCommit={(origin) => onChange({ ...profile, origin })}
        />
        <Cap>Notes</Cap>
        <Typed
          label="Notes"
          value={profile.notes}
          placeholder="what the next person should know"
          onCommit={(notes) => onChange({ ...profile, notes })}
        />
      </Box>
      <ProfileActions profile={profile} />
    </Box>
  );
}

/** Its manual; copies of it, here and for other shows; taking it away. */
function ProfileActions({ profile }: { profile: Whole }) {
  const edit = useEdit();
  const [, go] = useLocation();
  const { data: show } = useShow();
  const path = { profile_id: profile.id };
  const kept = show?.profiles.find((one) => one.id === profile.id)?.kept ?? false;
  const refetch = () => queries.invalidateQueries({ queryKey: ["show", "profile", profile.id] });
  const keep = async () => {
    await edit(() => answer(client.POST("/api/profiles/{profile_id}/keep", { params: { path } })));
    say(`${profile.name} is kept for other shows.`);
  };
  const copy = async () => {
    const { rev: _rev, manual_name: _manual, fixtures: _fixtures, ...fields } = profile;
    const name = freeName(profile.name, show?.profiles.map((one) => one.name) ?? []);
    const body = { ...fields, id: newId(), name } as Schemas["ProfileBody"];
    if (await edit(() => answer(client.POST("/api/profiles", { body })))) go(`/rig/profiles/${body.id}`);
  };
  const remove = async () => {
    const params = { params: { path } };
    if (await edit(() => answer(client.DELETE("/api/profiles/{profile_id}", params)))) go("/rig/profiles");
  };
  return (
    <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
      {profile.manual_name ? (
        <>
          <Link href={`/api/profiles/${profile.id}/manual`} target="_blank" sx={{ color: ink.sea }}>
            {profile.manual_name}
          </Link>
          <Button
            variant="text"
            onClick={() =>
              void edit(() =>
                answer(client.DELETE("/api/profiles/{profile_id}/manual", { params: { path } })),
              ).then(refetch)
            }
          >
            Take it away
          </Button>
        </>
      ) : (
        <FileChooser
          label="Manual as PDF"
          accept="application/pdf"
          onFiles={([file]) =>
            file && void edit(() => sendForm(`/api/profiles/${profile.id}/manual`, { file })).then(refetch)
          }
        >
          Attach a manual
        </FileChooser>
      )}
      <Button onClick={() => void keep()}>{kept ? "Keep it anew" : "Keep for other shows"}</Button>
      <Button onClick={() => void copy()}>Copy</Button>
      <Button color="error" disabled={profile.fixtures > 0} onClick={() => void remove()}>
        Delete
      </Button>
      {profile.fixtures > 0 && (
        <Cap>
          {profile.fixtures} {profile.fixtures === 1 ? "fixture is" : "fixtures are"} of it
        </Cap>
      )}
    </Box>
  );
}
