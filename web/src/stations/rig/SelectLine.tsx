import { Box } from "@mui/material";
import { useRef, useState } from "react";
import { answer, client, type Schemas, type WholeShow } from "../../api/client";
import { Cap, Num } from "../../components/atoms";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";

const counted = (count: number, word: string): string =>
  `${count.toLocaleString("en-US").replace(",", " ")} ${word}${count === 1 ? "" : "s"}`;

/** The typed selection: what it means is read while typing, and chosen with Enter. */
export function SelectLine({ show }: { show: WholeShow }) {
  const [text, setText] = useState("");
  const [read, setRead] = useState<Schemas["Selected"] | null>(null);
  const turn = useRef(0);
  const chosen = useView((view) => view.fixtures);
  const parts = useView((view) => view.parts);

  const look = async (next: string) => {
    setText(next);
    if (!next.trim()) return setRead(null);
    const mine = ++turn.current;
    const found = await answer(client.POST("/api/fixtures/select", { body: { text: next } })).catch(
      () => null,
    );
    if (mine === turn.current) setRead(found); // a slow answer of an earlier letter says nothing any more
    return found;
  };
  const choose = async () => {
    const found = await look(text);
    if (found && !found.problem)
      useView.setState({ fixtures: found.fixtures, parts: found.parts, emitter: found.emitter });
  };
  const cells = show.fixtures.reduce((sum, one) => sum + one.cells, 0);
  const says = read
    ? read.problem || `${counted(read.fixtures.length, "fixture")}, ${counted(read.cells, "cell")}`
    : `${chosen.length ? `${chosen.length}${parts.length ? " in part" : ""} of ` : ""}${counted(
        show.fixtures.length,
        "fixture",
      )}, ${counted(cells, "cell")}`;
  return (
    <Box sx={{ position: "relative", flex: 1, maxWidth: 460 }}>
      <Box
        component="input"
        aria-label="Select by typing"
        autoComplete="off"
        spellCheck={false}
        placeholder="401-414 every 2nd, Tower & odd, all strips : red"
        value={text}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => void look(event.target.value)}
        onKeyDown={(event: React.KeyboardEvent) => {
          if (event.key === "Enter") void choose();
          if (event.key === "Escape") {
            setText("");
            setRead(null);
          }
        }}
        sx={{
          width: "100%",
          height: 32,
          pl: 1.25,
          pr: 18,
          font: `500 13px ${mono}`,
          color: ink.text,
          background: "transparent",
          border: `1px solid ${read?.problem ? ink.brass : ink.hair2}`,
          borderRadius: "4px",
          "&:focus": { borderColor: ink.brass, outline: "none" },
          "&::placeholder": { color: ink.faint, opacity: 1 },
        }}
      />
      <Cap
        sx={{
          position: "absolute",
          right: 10,
          top: 8,
          pointerEvents: "none",
          background: ink.ground,
          pl: 1,
          maxWidth: 250,
          overflow: "hidden",
          textOverflow: "ellipsis",
          whiteSpace: "nowrap",
          color: read?.problem ? ink.brass : ink.soft,
        }}
        role="status"
      >
        <Num>{says}</Num>
      </Cap>
      {read?.problem && read.repair && (
        <Cap
          sx={{
            position: "absolute",
            zIndex: 4,
            top: 36,
            left: 0,
            right: 0,
            p: 1,
            background: ink.panel,
            border: `1px solid ${ink.brass}`,
            borderRadius: "4px",
            color: ink.text,
          }}
        >
          {read.problem} {read.repair}
        </Cap>
      )}
    </Box>
  );
}
