import { Box } from "@mui/material";
import { answer, client, type FixtureView, type Schemas } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, Chip, Num, Part } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { ink } from "../../theme/tokens";

type Block = Schemas["BlockPlaceView"];
const SAYS: Record<string, string> = { follows: "follows on", own: "own address", off: "off" };

/** Where the blocks of the chosen fixtures lie. Shown where a mode has more than one. */
export function BlocksPart({ fixture, chosen }: { fixture: FixtureView; chosen: FixtureView[] }) {
  const edit = useEdit();
  const alike = chosen.filter((one) => one.profile === fixture.profile && one.mode === fixture.mode);
  if (fixture.blocks.length < 2) return null;
  const set = async (block: number, state: string, address: string) => {
    let wrong = "";
    const body = {
      ids: alike.map((one) => one.id),
      block,
      state: state as Schemas["FixtureBlock"]["state"],
      address,
    };
    await edit(
      () => answer(client.POST("/api/fixtures/blocks", { body })),
      (fault) => {
        wrong = `${fault.what} ${fault.repair}`;
      },
    );
    return wrong;
  };
  return (
    <Part>
      <Box sx={{ display: "flex", justifyContent: "space-between", mb: 0.5 }}>
        <Box sx={{ fontWeight: 600 }}>Blocks</Box>
        <Cap>{alike.length > 1 ? `of all ${alike.length} chosen` : ""}</Cap>
      </Box>
      {fixture.blocks.map((block, index) => (
        <BlockRow
          // biome-ignore lint/suspicious/noArrayIndexKey: a block is its place in the mode
          key={index}
          block={block}
          first={index === 0}
          last={index === fixture.blocks.length - 1}
          onSet={(state, address) => set(index, state, address)}
        />
      ))}
    </Part>
  );
}

interface RowProps {
  block: Block;
  first: boolean;
  last: boolean;
  onSet: (state: string, address: string) => Promise<string>;
}

function BlockRow({ block, first, last, onSet }: RowProps) {
  const states = first ? ["follows", "off"] : ["follows", "own", "off"];
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "12px 1fr", gap: 1, pb: 1 }}>
      <Glyph state={block.state} joined={!last} />
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ display: "flex", gap: 1, alignItems: "baseline" }}>
          <span>{block.name}</span>
          <Cap>{block.footprint} channels</Cap>
          <Num style={{ marginLeft: "auto" }}>
            {block.state === "off" ? "" : block.address || "no address"}
          </Num>
        </Box>
        <Box sx={{ display: "flex", gap: 0.75, alignItems: "center", mt: 0.5 }}>
          {states.map((state) => (
            <Chip
              key={state}
              active={block.state === state}
              aria-pressed={block.state === state}
              aria-label={`${block.name}: ${first && state === "follows" ? "on" : SAYS[state]}`}
              onClick={() => block.state !== state && void onSet(state, "")}
            >
              {first && state === "follows" ? "on" : SAYS[state]}
            </Chip>
          ))}
          {block.state === "own" && (
            <Typed
              numeric
              width={86}
              label={`Address of ${block.name}`}
              value={block.address}
              placeholder="U10.1"
              onCommit={(address) => onSet("own", address)}
            />
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** A square for a block, joined to the next; hollow where it is off, barred where it has its own address. */
function Glyph({ state, joined }: { state: string; joined: boolean }) {
  const off = state === "off";
  return (
    <svg width="12" height="14" style={{ overflow: "visible" }} aria-hidden="true">
      {joined && <path d="M6.5 16V56" stroke={ink.hair2} strokeWidth="1.5" />}
      {state === "own" && <path d="M1 2V15" stroke={ink.sea} strokeWidth="2" />}
      <rect
        x="2.5"
        y="5"
        width="8"
        height="8"
        fill={off ? "none" : ink.sea}
        stroke={off ? ink.soft : ink.sea}
      />
      {off && <path d="M3 13 10 5" stroke={ink.soft} />}
    </svg>
  );
}
