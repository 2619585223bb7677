import { Box, Button } from "@mui/material";
import { memo } from "react";
import { answer, client, type GroupView, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, PaneHead } from "../../components/atoms";
import { LevelSlider } from "../../components/LevelSlider";
import { Tint } from "../../components/Tint";
import { Typed } from "../../components/Typed";
import { useSure } from "../../components/useSure";
import { move } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

/** A master for every group: it scales light on top of the grand master, and nothing else. */
export const Masters = memo(function Masters({ show }: { show: WholeShow }) {
  const whole = useLive((live) => live.engine?.state.tint) ?? [0, 0];
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}` }}>
      <PaneHead title="Masters">
        <Tint of="the show" hue={whole[0]} amount={whole[1]} at="" />
      </PaneHead>
      {show.groups.map((group) => (
        <Master key={group.id} group={group} />
      ))}
      {!show.groups.length && (
        <Cap sx={{ px: 2, pb: 2, fontSize: 13 }}>
          Choose fixtures at Rig (key 1) and group them: each group gets its master here.
        </Cap>
      )}
    </Box>
  );
});

function Master({ group }: { group: GroupView }) {
  const level = useLive((live) => live.engine?.state.masters[group.id]) ?? 1;
  const known = useLive((live) => live.engine !== null);
  const [hue, amount] = useLive((live) => live.engine?.state.group_tints[group.id]) ?? [0, 0];
  const edit = useEdit();
  const sure = useSure("Delete it");
  const params = { path: { group_id: group.id } };
  return (
    <Box sx={{ px: 2, pb: 1, opacity: known ? 1 : 0.5 }}>
      <LevelSlider
        narrow
        of={group.name}
        level={level}
        onLevel={(next) => move(`group/${group.id}/master`, next)}
        head={
          <Box sx={{ ml: -0.75 }}>
            <Typed
              quiet
              label={`Name of group ${group.name}`}
              value={group.name}
              onCommit={(name) =>
                edit(() =>
                  answer(client.PATCH("/api/groups/{group_id}", { params, body: { name, rev: group.rev } })),
                )
              }
            />
          </Box>
        }
      />
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.5, minHeight: 22 }}>
        <Cap sx={{ mr: "auto" }}>{group.fixtures.length} fixtures</Cap>
        <Tint of={group.name} hue={hue} amount={amount} at={`group/${group.id}/`} />
        <Button
          variant="text"
          aria-label={`Delete group ${group.name}`}
          sx={{ color: ink.soft, minWidth: 0 }}
          onClick={(event) =>
            void sure.ask(event.currentTarget, "group", group.id, () =>
              edit(() => answer(client.DELETE("/api/groups/{group_id}", { params }))),
            )
          }
        >
          Delete
        </Button>
        {sure.panel}
      </Box>
    </Box>
  );
}
