import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "wouter";
import { answer, client, type Schemas, type WholeShow } from "../../../api/client";
import { newId } from "../../../api/person";
import { useEdit } from "../../../api/show";
import { Cap, Num, Scroll } from "../../../components/atoms";
import { Field } from "../../../components/Field";
import { freeName } from "../../../model/names";
import { fits, sayChannels } from "../../../model/profiles";
import { ink } from "../../../theme/tokens";
import { blankProfile } from "./blank";

/** The profiles of the show, those in use first; and those kept from other shows. */
export function ProfileList({ show, chosen }: { show: WholeShow; chosen: string }) {
  const [text, setText] = useState("");
  const edit = useEdit();
  const [, go] = useLocation();
  const { data: kept = [] } = useQuery({
    queryKey: ["show", "kept"],
    queryFn: async () => (await answer(client.GET("/api/profiles/kept"))) as Schemas["KeptView"][],
  });
  const used = new Map<string, number>();
  for (const one of show.fixtures) used.set(one.profile, (used.get(one.profile) ?? 0) + 1);
  const found = show.profiles
    .filter((one) => fits(one, text))
    .sort((a, b) => Number(used.has(b.id)) - Number(used.has(a.id)) || a.name.localeCompare(b.name));
  const here = new Set(show.profiles.map((one) => `${one.maker}/${one.name}`));
  const others = kept.filter(
    (one) =>
      !here.has(`${one.maker}/${one.name}`) &&
      `${one.maker} ${one.name}`.toLowerCase().includes(text.toLowerCase()),
  );
  const add = async () => {
    const profile = blankProfile(
      freeName(
        "New profile",
        show.profiles.map((one) => one.name),
      ),
    );
    if (await edit(() => answer(client.POST("/api/profiles", { body: profile }))))
      go(`/rig/profiles/${profile.id}`);
  };
  const take = async (key: string) => {
    const id = newId();
    const path = { kept_id: key };
    if (
      await edit(() =>
        answer(client.POST("/api/profiles/kept/{kept_id}/take", { params: { path }, body: { ids: [id] } })),
      )
    )
      go(`/rig/profiles/${id}`);
  };
  return (
    <>
      <Box sx={{ display: "flex", gap: 1, px: 2, pb: 1 }}>
        <Field
          label="Search profiles"
          placeholder="strip, amber, 46 ..."
          width="100%"
          value={text}
          onChange={setText}
        />
        <Button onClick={() => void add()}>New</Button>
      </Box>
      <Scroll as="nav" aria-label="Profiles">
        {found.map((one) => (
          <Box
            key={one.id}
            component={Link}
            to={`/rig/profiles/${one.id}`}
            aria-current={one.id === chosen ? "true" : undefined}
            sx={{
              display: "block",
              px: 2,
              py: 0.75,
              color: "inherit",
              textDecoration: "none",
              borderBottom: `1px solid ${ink.hair}`,
              background: one.id === chosen ? ink.brassGround : "none",
              boxShadow: one.id === chosen ? `inset 3px 0 ${ink.brass}` : "none",
              "&:hover": { background: one.id === chosen ? ink.brassGround : ink.row },
            }}
          >
            <Box sx={{ display: "flex", gap: 1 }}>
              <Box sx={{ flex: 1, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
                {one.name}
              </Box>
              {used.has(one.id) && <Num style={{ color: ink.sea }}>{used.get(one.id)} in use</Num>}
            </Box>
            <Cap sx={{ display: "flex", justifyContent: "space-between" }}>
              <span>
                {one.maker}, {one.kind}
                {one.guarded && <span style={{ color: ink.coral }}>, guarded</span>}
                {one.verified && ", verified"}
              </span>
              <Num>{sayChannels(one)}</Num>
            </Cap>
          </Box>
        ))}
        {!found.length && <Cap sx={{ p: 2 }}>No profile is what you typed. Make it: New.</Cap>}
        {others.length > 0 && (
          <Box sx={{ px: 2, py: 1.5 }}>
            <Cap sx={{ mb: 0.5 }}>Kept from other shows</Cap>
            {others.map((one) => (
              <Box key={one.id} sx={{ display: "flex", alignItems: "center", gap: 1, py: 0.25 }}>
                <Box sx={{ flex: 1, minWidth: 0 }}>
                  {one.name} <Cap>{one.maker}</Cap>
                </Box>
                <Button onClick={() => void take(one.id)}>Take it</Button>
              </Box>
            ))}
          </Box>
        )}
      </Scroll>
    </>
  );
}
