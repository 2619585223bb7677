import { Box } from "@mui/material";
import { useMemo, useRef, useState } from "react";
import { answer, client, type FixtureView, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, Num, PaneHead, Scroll } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { useView } from "../../stores/view";
import { ink } from "../../theme/tokens";
import { SentCells } from "./SentCells";

const ROW = 32;
const COLUMNS = "64px minmax(130px,1.1fr) minmax(150px,1.2fr) 70px 56px 104px 80px minmax(90px,1fr)";
const HEADS = ["No.", "Name", "Profile, mode", "Channels", "Cells", "Address", "to", "Sent"];

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
  const cells = fixtures.reduce((sum, f) => sum + f.cells, 0);

  const choose = (fixture: FixtureView, event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    const at = fixtures.findIndex((f) => f.id === fixture.id);
    const last = fixtures.findIndex((f) => f.id === chosen.at(-1));
    let next = [fixture.id];
    if (event.shiftKey && last >= 0)
      next = fixtures.slice(Math.min(at, last), Math.max(at, last) + 1).map((f) => f.id);
    else if (event.ctrlKey || event.metaKey)
      next = chosen.includes(fixture.id) ? chosen.filter((id) => id !== fixture.id) : [...chosen, fixture.id];
    useView.setState({ fixtures: next });
  };

  const onKey = (event: React.KeyboardEvent) => {
    if ((event.target as HTMLElement).tagName === "INPUT") return;
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    const at = fixtures.findIndex((f) => f.id === chosen.at(-1));
    const next = fixtures[Math.min(fixtures.length - 1, Math.max(0, at + step))];
    if (!next) return;
    useView.setState({ fixtures: event.shiftKey ? [...new Set([...chosen, next.id])] : [next.id] });
    const y = fixtures.indexOf(next) * ROW;
    const view = box.current;
    if (view && y < view.scrollTop) view.scrollTop = y;
    if (view && y + ROW > view.scrollTop + view.clientHeight) view.scrollTop = y + ROW - view.clientHeight;
  };

  return (
    <>
      <PaneHead title="Fixtures">
        <Cap>
          {fixtures.length} fixtures, <Num>{cells.toLocaleString("en-US").replace(",", " ")}</Num> cells
          {chosen.length > 1 && `, ${chosen.length} chosen`}
        </Cap>
      </PaneHead>
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
              y={(first + index) * ROW}
              chosen={chosen.includes(fixture.id)}
              onChoose={(event) => choose(fixture, event)}
              show={show}
            />
          ))}
        </div>
      </Scroll>
    </>
  );
}

interface RowProps {
  fixture: FixtureView;
  profile: string;
  y: number;
  chosen: boolean;
  onChoose: (event: React.MouseEvent) => void;
  show: WholeShow;
}

function Row({ fixture, profile, y, chosen, onChoose, show }: RowProps) {
  const edit = useEdit();
  const patch = async (body: { number?: number; name?: string; address?: string }) => {
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
      onClick={onChoose}
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
      <Num>{fixture.cells}</Num>
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
      <SentCells fixture={fixture} show={show} />
    </Box>
  );
}
