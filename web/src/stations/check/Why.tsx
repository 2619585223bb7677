import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Fault, type Schemas, type WholeShow } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, FaultNote, PaneHead } from "../../components/atoms";
import { Field } from "../../components/Field";
import { readCell } from "../../model/why";
import { useBack } from "../../stores/back";
import { command } from "../../stores/hands";
import { ink } from "../../theme/tokens";
import { WhyBeam } from "./WhyBeam";
import { stop } from "./walk/useWalk";

const AGAIN_MS = 500;

type Chain = Schemas["WhyChannel"];

/** The value of a channel and every step that made it, from the bottom line of the look to the wire. */
export function Why({ universe, channel }: { universe: number; channel: number }) {
  const frame = useBack((back) => back.moment?.frame ?? null);
  const { data, error } = useQuery<Chain, Fault>({
    queryKey: ["why", universe, channel, frame],
    queryFn: async () =>
      (await answer(
        client.GET("/api/why/{universe}/{channel}", {
          params: { path: { universe, channel }, query: frame === null ? {} : { frame } },
        }),
      )) as Chain,
    refetchInterval: frame === null ? AGAIN_MS : false,
    placeholderData: (before) => before,
    retry: false,
  });
  const right = data?.universe === universe && data.channel === channel;
  return (
    <Box role="group" aria-label="Why">
      <PaneHead title={`Why U${universe}.${channel}`}>
        <Cap sx={{ color: frame === null ? ink.soft : ink.brass }}>
          {right && data ? `${frame === null ? "" : "then "}${says(data)}` : ""}
        </Cap>
      </PaneHead>
      {error && <FaultNote what={error.what} repair={error.repair} />}
      {right && data && <WhyBeam chain={data} />}
    </Box>
  );
}

function says(chain: Chain): string {
  if (!chain.sent) return "not sent";
  if (chain.frozen) return `${chain.value}, frozen: made at an earlier moment`;
  if (chain.exact && chain.made !== chain.value) return `${chain.value} sent, ${chain.made} made`;
  return `${chain.value} sent`;
}

/** A lamp that should be lit and is not: the first broken link, with its repair. */
export function WhyDark({ show, written }: { show: WholeShow; written: string }) {
  const [typed, setTyped] = useState<string | null>(null);
  const [said, setSaid] = useState<(Schemas["WhyDark"] & { of: string }) | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);
  const edit = useEdit();
  const text = typed ?? written;
  const ask = async () => {
    setFault(null);
    const cell = readCell(text, show.fixtures);
    if (!cell) {
      setSaid(null);
      setFault({ what: `There is no cell '${text}'.`, where: "cell", repair: "Write 101:5.", status: 0 });
      return;
    }
    try {
      const path = { fixture_id: cell.fixture.id, cell: cell.cell };
      const found = await answer(client.GET("/api/why-dark/{fixture_id}/{cell}", { params: { path } }));
      setSaid({ ...(found as Schemas["WhyDark"]), of: text });
    } catch (wrong) {
      setSaid(null);
      setFault(wrong as Fault);
    }
  };
  const mend = async (repair: Schemas["DarkRepair"]) => {
    if (repair.table === "engine") command(repair.change as { do: string });
    else if (repair.table === "walk") await stop();
    else if (repair.table === "parked")
      await edit(
        () => answer(client.PUT("/api/parked", { body: repair.change as Schemas["ParkBody"] })),
        setFault,
      );
    else if (repair.table === "output")
      await edit(
        () =>
          answer(
            client.PATCH("/api/outputs/{output_id}", {
              params: { path: { output_id: repair.id } },
              body: repair.change,
            }),
          ),
        setFault,
      );
    else
      await edit(
        () =>
          answer(
            client.PATCH("/api/looks/{look_id}/lines/{line_id}", {
              params: { path: { look_id: repair.parent, line_id: repair.id } },
              body: repair.change as Schemas["LinePatch"],
            }),
          ),
        setFault,
      );
    setTimeout(() => void ask(), ANEW_MS);
  };
  return (
    <Box sx={{ borderTop: `1px solid ${ink.hair}` }} role="group" aria-label="Why dark">
      <PaneHead title="Why is it dark?">
        <Box
          component="form"
          sx={{ display: "flex", gap: 0.75 }}
          onSubmit={(event: React.FormEvent) => {
            event.preventDefault();
            void ask();
          }}
        >
          <Field width={86} label="Lamp or cell" placeholder="101:5" value={text} onChange={setTyped} />
          <Button type="submit" disabled={!text.trim()}>
            Ask
          </Button>
        </Box>
      </PaneHead>
      {fault && (
        <Box sx={{ px: 2, pb: 1 }}>
          <FaultNote what={fault.what} repair={fault.repair} />
        </Box>
      )}
      {said ? (
        <Box sx={{ px: 2, pb: 1.5, fontSize: 13.5, lineHeight: "19px" }} role="status" aria-label="Answer">
          <Box sx={{ color: said.kind ? ink.brass : ink.text }}>{said.sentence}</Box>
          {said.repair && (
            <Button sx={{ mt: 0.75 }} onClick={() => said.repair && void mend(said.repair)}>
              {said.repair.label}
            </Button>
          )}
          <Cap sx={{ mt: 0.75, lineHeight: "17px" }}>{said.checked.join(" ")}</Cap>
        </Box>
      ) : (
        <Cap sx={{ px: 2, pb: 1.5, lineHeight: "17px" }}>
          Point at a channel, or type a cell: the first broken link between what plays and its light is named.
        </Cap>
      )}
    </Box>
  );
}

/** After a repair the engine has the change, and a frame was made from it. */
const ANEW_MS = 600;
