import { Box, Button } from "@mui/material";
import { answer, client, type GroupView, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, PaneHead } from "../../components/atoms";
import { LevelSlider } from "../../components/LevelSlider";
import { Typed } from "../../components/Typed";
import { move } from "../../stores/hands";
import { useLive } from "../../stores/live";
import { ink } from "../../theme/tokens";

/** A master for every group: it scales light on top of the grand master, and nothing else. */
export function Masters({ show }: { show: WholeShow }) {
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}` }}>
      <PaneHead title="Group masters">
        <Cap>on top of the grand master</Cap>
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
}

function Master({ group }: { group: GroupView }) {
  const level = useLive((live) => live.engine?.state.masters[group.id]) ?? 1;
  const known = useLive((live) => live.engine !== null);
  const edit = useEdit();
  const params = { path: { group_id: group.id } };
  return (
    <Box sx={{ px: 2, pb: 1.25, opacity: known ? 1 : 0.5 }}>
      <Box sx={{ display: "flex", alignItems: "center" }}>
        <Box sx={{ flex: 1, ml: -0.75 }}>
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
        <Cap>{group.fixtures.length} fixtures</Cap>
        <Button
          variant="text"
          aria-label={`Delete group ${group.name}`}
          sx={{ color: ink.soft }}
          onClick={() => edit(() => answer(client.DELETE("/api/groups/{group_id}", { params })))}
        >
          Delete
        </Button>
      </Box>
      <LevelSlider of={group.name} level={level} onLevel={(next) => move(`group/${group.id}/master`, next)} />
    </Box>
  );
}
