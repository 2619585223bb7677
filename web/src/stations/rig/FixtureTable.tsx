import { Box } from "@mui/material";
import { memo, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { answer, client, type FixtureView, type ProfileView, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Num, Scroll } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { chooseFixtures, useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { SentCells } from "./SentCells";

const ROW = 32;
/** The head of the table covers so much of its top, px. */
const HEAD = 22;
const COLUMNS =
  "52px minmax(110px,1.1fr) minmax(130px,1.2fr) 40px 44px 82px 66px minmax(96px,0.9fr) minmax(70px,0.8fr)";
const HEADS = ["No.", "Name", "Profile, mode", "Ch", "Cells", "Address", "to", "Blocks", "Sent"];

/** All fixtures in rows of 32 px; only those in view are drawn, so thousands scroll. */
export function FixtureTable({ show }: { show: WholeShow }) {
  const [top, setTop] = useState(0);
  const [height, setHeight] = useState(600);
  const chosen = useView((view) => view.fixtures);
  const box = useRef<HTMLDivElement>(null);
  const { fixtures } = show;
  const first = Math.max(0, Math.floor(top / ROW) - 4);
  const shown = fixtures.slice(first, first + Math.ceil(height / ROW) + 8);
  const profiles = useMemo(() => new Map(show.profiles.map((p) => [p.id, p])), [show.profiles]);
  const parts = useView((view) => view.parts);
  const counted = useMemo(() => partsOf(parts), [parts]);

  const listed = useRef(fixtures);
  listed.current = fixtures;
  // The same function for every drawing, so that rows that did not change are not drawn again.
  const choose = useCallback((id: string, event: Modified) => {
    const before = useView.getState().fixtures;
    const at = listed.current.findIndex((f) => f.id === id);
    const last = listed.current.findIndex((f) => f.id === before.at(-1));
    let next = [id];
    if (event.shiftKey && last >= 0)
      next = listed.current.slice(Math.min(at, last), Math.max(at, last) + 1).map((f) => f.id);
    else if (event.ctrlKey || event.metaKey)
      next = before.includes(id) ? before.filter((one) => one !== id) : [...before, id];
    chooseFixtures(next);
  }, []);

  const onKey = (event: React.KeyboardEvent) => {
    if ((event.target as HTMLElement).tagName === "INPUT") return;
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    const at = fixtures.findIndex((f) => f.id === chosen.at(-1));
    const next = fixtures[Math.min(fixtures.length - 1, Math.max(0, at + step))];
    if (!next) return;
    chooseFixtures(event.shiftKey ? [...new Set([...chosen, next.id])] : [next.id]);
  };

  // Whatever was chosen, by arrows, by typing or by adding it, comes into view.
  const last = fixtures.findIndex((f) => f.id === chosen.at(-1));
  useEffect(() => {
    const view = box.current;
    if (!view || last < 0) return;
    const y = last * ROW;
    if (y < view.scrollTop) view.scrollTop = y;
    const below = y + ROW + HEAD - view.clientHeight;
    if (below > view.scrollTop) view.scrollTop = below;
  }, [last]);

  return (
    <Scroll
      ref={(element: HTMLDivElement | null) => {
        box.current = element;
        if (element && element.clientHeight !== height) setHeight(element.clientHeight);
      }}
      onScroll={(event) => setTop(event.currentTarget.scrollTop)}
      onKeyDown={onKey}
      tabIndex={0}
      role="grid"
      aria-label="Fixtures"
      aria-rowcount={fixtures.length}
    >
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: COLUMNS,
          px: 2,
          position: "sticky",
          top: 0,
          zIndex: 1,
          background: ink.ground,
          fontSize: 12,
          color: ink.soft,
          borderBottom: `1px solid ${ink.hair}`,
          pb: 0.5,
          columnGap: 1,
        }}
      >
        {HEADS.map((head) => (
          <span key={head}>{head}</span>
        ))}
      </Box>
      <div style={{ height: fixtures.length * ROW, position: "relative" }}>
        {shown.map((fixture, index) => (
          <Row
            key={fixture.id}
            fixture={fixture}
            profile={profiles.get(fixture.profile)?.name ?? "no profile"}
            names={namesOf(profiles.get(fixture.profile), fixture.mode)}
            y={(first + index) * ROW}
            chosen={chosen.includes(fixture.id)}
            part={counted.get(fixture.id)}
            onChoose={choose}
            show={show}
          />
        ))}
      </div>
    </Scroll>
  );
}

/** Of fixtures that are not chosen whole: what of them is. */
function partsOf(parts: string[]): Map<string, string> {
  const cells = new Map<string, string[]>();
  for (const part of parts) {
    const [id = "", cell = ""] = part.split(":");
    cells.set(id, [...(cells.get(id) ?? []), cell]);
  }
  return new Map(
    [...cells].map(([id, list]) => {
      const own = list.filter((cell) => cell !== "0");
      if (!own.length) return [id, "shared"];
      return [id, list.length > own.length ? `0+${own.length}` : `${own.length} of`];
    }),
  );
}

/** "1 par left, 3 strobe": at most so many names. */
const NAMES = 24;

function namesOf(profile: ProfileView | undefined, mode: string): string {
  const blocks = profile?.modes.find((one) => one.name === mode)?.blocks ?? [];
  const named: string[] = [];
  let cell = 0;
  for (const block of blocks)
    for (let n = 0; n < block.cells; n++) {
      cell++;
      const name = block.names[n];
      if (name) named.push(`${cell} ${name}`);
    }
  return named.slice(0, NAMES).join(", ") + (named.length > NAMES ? " ..." : "");
}

interface Modified {
  shiftKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
}

interface RowProps {
  fixture: FixtureView;
  /** What of it is chosen, where it is not chosen whole. */
  part: string | undefined;
  profile: string;
  /** What its cells are called, where its profile names them. */
  names: string;
  y: number;
  chosen: boolean;
  onChoose: (id: string, event: Modified) => void;
  show: WholeShow;
}

/** Drawn again only where something of it is new: an edit of one fixture in 2,000 draws one row. */
const Row = memo(
  PlainRow,
  (a, b) =>
    a.fixture === b.fixture &&
    a.part === b.part &&
    a.profile === b.profile &&
    a.names === b.names &&
    a.y === b.y &&
    a.chosen === b.chosen &&
    a.show.matrices === b.show.matrices,
);

function PlainRow({ fixture, part, profile, names, y, chosen, onChoose, show }: RowProps) {
  const edit = useEdit();
  const patch = async (body: { number?: number; name?: string; address?: string; lies?: string }) => {
    let wrong = "";
    await edit(
      () =>
        answer(
          client.PATCH("/api/fixtures/{fixture_id}", {
            params: { path: { fixture_id: fixture.id } },
            body: { ...body, rev: fixture.rev },
          }),
        ),
      (fault) => {
        wrong = `${fault.what} ${fault.repair}`;
      },
    );
    return wrong;
  };
  return (
    <Box
      role="row"
      aria-selected={chosen}
      onClick={(event) => onChoose(fixture.id, event)}
      sx={{
        position: "absolute",
        top: y,
        left: 0,
        right: 0,
        height: ROW,
        px: 2,
        display: "grid",
        gridTemplateColumns: COLUMNS,
        columnGap: 1,
        alignItems: "center",
        whiteSpace: "nowrap",
        borderBottom: `1px solid ${ink.hair}`,
        background: chosen ? ink.brassGround : "none",
        boxShadow: chosen ? `inset 3px 0 ${ink.brass}` : "none",
        "&:hover": { background: chosen ? ink.brassGround : ink.row },
        "& > *": { minWidth: 0, overflow: "hidden", textOverflow: "ellipsis" },
        "& > .typed": { overflow: "visible", ml: -0.75 },
      }}
    >
      <div className="typed">
        <Typed
          quiet
          numeric
          label={`Number of ${fixture.name}`}
          value={String(fixture.number)}
          onCommit={(text) =>
            /^\d+$/.test(text.trim()) ? patch({ number: Number(text) }) : "A number is 1 to 999999."
          }
        />
      </div>
      <div className="typed">
        <Typed
          quiet
          label={`Name of ${fixture.number}`}
          value={fixture.name}
          onCommit={(name) => patch({ name })}
        />
      </div>
      <Box sx={{ color: ink.soft }}>
        {profile}, <Num style={{ color: ink.text }}>{fixture.mode}</Num>
      </Box>
      <Num>{fixture.footprint}</Num>
      <Num title={names} style={part ? { color: ink.brass } : undefined}>
        {part ? `${part}${part.endsWith("of") ? ` ${fixture.cells}` : ""}` : fixture.cells}
      </Num>
      <div className="typed">
        <Typed
          quiet
          numeric
          label={`Address of ${fixture.number}`}
          value={fixture.address}
          placeholder="no address"
          onCommit={(address) => patch({ address })}
        />
      </div>
      <Box sx={{ color: fixture.conflict.length ? ink.brass : ink.soft }}>
        {fixture.conflict.length ? (
          `meets ${fixture.conflict[0]}`
        ) : (
          <Num>{fixture.end.replace(/^U\d+/, "")}</Num>
        )}
      </Box>
      <div className="typed">
        {fixture.blocks.length > 1 && (
          <Typed
            quiet
            label={`Blocks of ${fixture.number}`}
            value={fixture.lies}
            placeholder="one after another"
            onCommit={(lies) => patch({ lies })}
          />
        )}
      </div>
      <SentCells fixture={fixture} show={show} />
    </Box>
  );
}
