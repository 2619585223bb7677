import { Box, Button } from "@mui/material";
import { useState } from "react";
import { answer, client, type GroupView, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, Chip, Num, Part } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Typed } from "../../components/Typed";
import { useSure } from "../../components/useSure";
import { freeName } from "../../model/names";
import { useView } from "../../stores/view";

/** The groups, by folder; a new one of what is chosen; and the one at hand, by hand or by rule. */
export function GroupsPart({ show }: { show: WholeShow }) {
  const chosen = useView((view) => view.fixtures);
  const parts = useView((view) => view.parts);
  const emitter = useView((view) => view.emitter);
  const [open, setOpen] = useState("");
  const edit = useEdit();
  const numbers = new Map(show.fixtures.map((f) => [f.id, f.number]));
  const add = async () => {
    const what = parts.length
      ? parts.map((part) => `${numbers.get(part.split(":")[0] ?? "")}:${part.split(":")[1]}`)
      : chosen.map((id) => numbers.get(id));
    const selection = what.join(", ") + (emitter ? ` : ${emitter}` : "");
    const name = freeName(
      `Group ${show.groups.length + 1}`,
      show.groups.map((one) => one.name),
    );
    const body = { id: newId(), name, selection: shortened(selection), by_rule: false, folder: "" };
    if (await edit(() => answer(client.POST("/api/groups", { body })))) setOpen(body.id);
  };
  const folders = [...new Set(show.groups.map((one) => one.folder))].sort();
  const group = show.groups.find((one) => one.id === open);
  return (
    <Part>
      <Box sx={{ display: "flex", alignItems: "center", mb: 1 }}>
        <Box sx={{ fontWeight: 600 }}>Groups</Box>
        <Button
          variant="text"
          sx={{ ml: "auto", px: 0.75 }}
          title="A group for each emitter of what is chosen: that emitter of all that have one"
          disabled={!chosen.length}
          onClick={() =>
            void edit(() => answer(client.POST("/api/groups/emitters", { body: { ids: chosen } })))
          }
        >
          By emitter
        </Button>
        <Button onClick={() => void add()} disabled={!chosen.length}>
          Group {chosen.length > 1 ? `these ${chosen.length}` : "this one"}
        </Button>
      </Box>
      {folders.map((folder) => (
        <Box key={folder} sx={{ mb: 0.75 }}>
          {folder && <Cap sx={{ mb: 0.5 }}>{folder}</Cap>}
          <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap" }}>
            {show.groups
              .filter((one) => one.folder === folder)
              .map((one) => (
                <Chip
                  key={one.id}
                  active={one.id === open}
                  aria-pressed={one.id === open}
                  title={`Choose what is in ${one.name}`}
                  onClick={() => {
                    useView.setState({ fixtures: one.fixtures, parts: one.cells, emitter: one.emitter });
                    setOpen(one.id);
                  }}
                >
                  {one.name} <Num>{one.cells.length || one.fixtures.length}</Num>
                  {one.rule && <span title={`by rule: ${one.rule}`}>↻</span>}
                </Chip>
              ))}
          </Box>
        </Box>
      ))}
      {group && <GroupEditor group={group} onGone={() => setOpen("")} />}
      {!show.groups.length && <Cap>A group has a master of its own at Run (key 5).</Cap>}
    </Part>
  );
}

/** Numbers that follow each other are written as a run. */
function shortened(selection: string): string {
  const [list = "", tail = ""] = selection.split(" : ");
  const items = list.split(", ");
  if (items.length > 400 || items.some((one) => !/^\d+$/.test(one))) return selection;
  const runs: string[] = [];
  for (let n = 0; n < items.length; n++) {
    const begin = n;
    while (n + 1 < items.length && Number(items[n + 1]) === Number(items[n]) + 1) n++;
    runs.push(n > begin ? `${items[begin]}-${items[n]}` : (items[begin] ?? ""));
  }
  return runs.join(", ") + (tail ? ` : ${tail}` : "");
}

function GroupEditor({ group, onGone }: { group: GroupView; onGone: () => void }) {
  const edit = useEdit();
  const sure = useSure("Delete it");
  const path = { group_id: group.id };
  const patch = async (body: { name?: string; folder?: string; selection?: string; by_rule?: boolean }) => {
    let wrong = "";
    await edit(
      () =>
        answer(
          client.PATCH("/api/groups/{group_id}", { params: { path }, body: { ...body, rev: group.rev } }),
        ),
      (fault) => {
        wrong = `${fault.what} ${fault.repair}`;
      },
    );
    return wrong;
  };
  return (
    <Box
      role="group"
      aria-label={`Group ${group.name}`}
      sx={{ display: "grid", gridTemplateColumns: "52px 1fr", gap: 0.75, alignItems: "center", mt: 1 }}
    >
      <Cap>Name</Cap>
      <Typed label="Name of the group" value={group.name} onCommit={(name) => patch({ name })} />
      <Cap>Folder</Cap>
      <Typed
        label="Folder of the group"
        value={group.folder}
        placeholder="none"
        onCommit={(folder) => patch({ folder })}
      />
      <Cap>Members</Cap>
      <Choices
        names={[
          ["hand", "by hand"],
          ["rule", "by rule"],
        ]}
        chosen={group.rule ? "rule" : "hand"}
        onChoose={(way) =>
          way === "hand" ? patch({ by_rule: false }) : patch({ by_rule: true, selection: "all" })
        }
      />
      <Cap>{group.rule ? "Rule" : "Set to"}</Cap>
      <Typed
        label={group.rule ? "Rule of the group" : "Members of the group"}
        value={group.rule}
        placeholder="401-414, Tower & odd, all strips"
        onCommit={(selection) => patch({ selection })}
      />
      <span />
      <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
        <Cap sx={{ flex: 1 }}>
          {group.rule
            ? "New fixtures that fit join by themselves."
            : `${group.cells.length ? `${group.cells.length} parts of ` : ""}${group.fixtures.length} fixtures, in order.`}
        </Cap>
        <Button
          variant="text"
          color="error"
          onClick={(event) =>
            void sure.ask(event.currentTarget, "group", group.id, () =>
              edit(() => answer(client.DELETE("/api/groups/{group_id}", { params: { path } }))).then(onGone),
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
