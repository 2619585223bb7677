import { Box, Button } from "@mui/material";
import { answer, client, type WholeShow } from "../../api/client";
import { newId } from "../../api/person";
import { useEdit } from "../../api/show";
import { Cap, Chip, Num, Part } from "../../components/atoms";
import { useView } from "../../stores/view";

/** The groups the chosen fixtures are in, and a new one of them. */
export function GroupsPart({ show }: { show: WholeShow }) {
  const chosen = useView((view) => view.fixtures);
  const edit = useEdit();
  const numbers = show.fixtures.filter((f) => chosen.includes(f.id)).map((f) => f.number);
  const add = async () => {
    const body = { id: newId(), name: `Group ${show.groups.length + 1}`, selection: numbers.join(", ") };
    await edit(() => answer(client.POST("/api/groups", { body })));
  };
  return (
    <Part>
      <Box sx={{ display: "flex", alignItems: "center", mb: 1 }}>
        <Box sx={{ fontWeight: 600 }}>Groups</Box>
        <Button sx={{ ml: "auto" }} onClick={add} disabled={!numbers.length}>
          Group {numbers.length > 1 ? `these ${numbers.length}` : "this one"}
        </Button>
      </Box>
      <Box sx={{ display: "flex", gap: 0.75, flexWrap: "wrap" }}>
        {show.groups.map((group) => (
          <Chip
            key={group.id}
            active={chosen.length > 0 && group.fixtures.some((id) => chosen.includes(id))}
            title={`Choose all ${group.fixtures.length} fixtures of ${group.name}`}
            onClick={() => useView.setState({ fixtures: group.fixtures })}
          >
            {group.name} <Num>{group.fixtures.length}</Num>
          </Chip>
        ))}
      </Box>
      {!show.groups.length && <Cap>A group has a master of its own at Run (key 5).</Cap>}
    </Part>
  );
}
