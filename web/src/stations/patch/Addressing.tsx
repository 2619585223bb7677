import { Box, Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { answer, client, type Fault, type Schemas, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, FaultNote, KeyCap, Num } from "../../components/atoms";
import { Choices } from "../../components/Choices";
import { Field } from "../../components/Field";
import { ink } from "../../theme/tokens";
import { firstWalk, PortsLine, WalkLine } from "./AddressingChoices";

type Body = Schemas["Addressing"];

/** Automatic addressing: a scheme, an order, a start; every old and new address before anything moves. */
export function Addressing({ show, onClose }: { show: WholeShow; onClose: () => void }) {
  const revision = show.show.revision;
  const [body, setBody] = useState<Body>({
    selection: "all",
    scheme: "no split fixture",
    order: "number",
    start: "U1.1",
  });
  const [plan, setPlan] = useState<Schemas["AddressPlan"] | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const asked = useRef(0);
  const edit = useEdit();
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision may answer otherwise
  useEffect(() => {
    const turn = ++asked.current;
    answer(client.POST("/api/patch/plan", { body })).then(
      (next) => turn === asked.current && setPlan(next as Schemas["AddressPlan"]),
      () => turn === asked.current && setPlan(null),
    );
  }, [body, revision]);
  const set = (change: Partial<Body>) => {
    setFault(null);
    setBody({ ...body, ...change });
  };
  const apply = async () => {
    if (await edit(() => answer(client.POST("/api/patch/apply", { body })), setFault)) onClose();
  };
  const ready = plan !== null && !plan.problem && plan.changed > 0;
  return (
    <Box
      role="group"
      aria-label="Address automatically"
      onKeyDown={(event: React.KeyboardEvent) => {
        if (event.key === "Escape") onClose();
        if (event.key === "Enter" && (event.target as HTMLElement).tagName === "INPUT" && ready) void apply();
      }}
      sx={{
        borderBottom: `1px solid ${ink.brass}`,
        background: ink.panel,
        px: 2,
        pb: 1.5,
        display: "flex",
        flexDirection: "column",
        minHeight: 0,
        maxHeight: "62%",
      }}
    >
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: "72px 1fr auto",
          rowGap: 1,
          pt: 1.5,
          alignItems: "center",
        }}
      >
        <Cap>address</Cap>
        <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
          <Field
            width={130}
            label="Fixtures"
            value={body.selection}
            onChange={(selection) => set({ selection })}
          />
          <Cap>from</Cap>
          <Field width={130} label="Start" value={body.start} onChange={(start) => set({ start })} />
        </Box>
        <Box sx={{ display: "flex", gap: 1 }}>
          <Button variant="text" onClick={onClose}>
            Cancel <KeyCap>Esc</KeyCap>
          </Button>
          <Button color="primary" disabled={!ready} onClick={apply}>
            Move {plan?.changed ?? 0} <KeyCap sx={{ color: "inherit" }}>Enter</KeyCap>
          </Button>
        </Box>
        <Cap>so that</Cap>
        <Choices
          names={[
            ["no split fixture", "no fixture is split"],
            ["no split pixel", "no pixel is split"],
            ["dense", "dense"],
            ["a universe each", "a universe each"],
            ["a universe a row", "a universe a row"],
            ["node ports", "by node port"],
          ]}
          chosen={body.scheme}
          onChoose={(scheme) =>
            set({
              scheme,
              ...(scheme === "a universe a row" && body.order !== "strand" ? { order: "plan" } : {}),
            })
          }
        />
        <span />
        <Cap>ordered by</Cap>
        <Choices
          names={[
            ["number", "number"],
            ["name", "name"],
            ["address", "present address"],
            ["plan", "place on the plan"],
            ["strand", "strand"],
          ]}
          chosen={body.order}
          onChoose={(order) =>
            set({ order, ...(order === "strand" ? { walk: body.walk ?? firstWalk(show) } : {}) })
          }
        />
        <span />
        {body.order === "strand" && body.walk && (
          <WalkLine show={show} walk={body.walk} onChange={(walk) => set({ walk })} />
        )}
        {body.scheme === "node ports" && (
          <PortsLine show={show} ports={body.ports ?? null} onChange={(ports) => set({ ports })} />
        )}
      </Box>
      {plan?.problem && <FaultNote what={plan.problem} repair={plan.repair} />}
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      {plan && !plan.problem && (
        <>
          <Cap sx={{ py: 1 }}>
            {plan.changed
              ? `${plan.changed} of ${plan.moves.length} fixtures move; they take ${plan.universes} universes`
              : `All ${plan.moves.length} lie there already`}
          </Cap>
          <Moves moves={plan.moves} />
        </>
      )}
    </Box>
  );
}

function Moves({ moves }: { moves: Schemas["MoveView"][] }) {
  return (
    <Box
      sx={{
        overflowY: "auto",
        minHeight: 60,
        display: "grid",
        gridTemplateColumns: "repeat(auto-fill, minmax(330px, 1fr))",
        columnGap: 3,
        alignContent: "start",
      }}
    >
      {moves.map((move) => {
        const moved = move.before !== move.address;
        return (
          <Box
            key={move.fixture}
            sx={{
              display: "grid",
              gridTemplateColumns: "44px minmax(0,1fr) 74px 14px 120px",
              gap: 0.75,
              lineHeight: "24px",
              contentVisibility: "auto",
              containIntrinsicSize: "auto 25px",
              fontSize: 13,
              borderBottom: `1px dashed ${ink.hair}`,
              opacity: moved ? 1 : 0.55,
            }}
          >
            <Num>{move.number}</Num>
            <Box sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>{move.name}</Box>
            <Num style={{ color: ink.soft }}>{move.before || "none"}</Num>
            <span aria-hidden="true">→</span>
            <Num style={{ color: moved ? ink.brass : ink.soft }}>
              {move.address} to{" "}
              {move.end.split(".")[0] === move.address.split(".")[0] ? "" : move.end.split(".")[0]}.
              {move.end.split(".")[1]}
            </Num>
          </Box>
        );
      })}
    </Box>
  );
}
