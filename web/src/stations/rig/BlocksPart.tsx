import { Box } from "@mui/material";
import { answer, client, type FixtureView, type Schemas } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, Num, Part } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { ink } from "../../theme/tokens";

type Block = Schemas["BlockPlaceView"];

/** Where the blocks of the chosen fixtures lie, one field each. Shown where a mode has more than one. */
export function BlocksPart({ fixture, chosen }: { fixture: FixtureView; chosen: FixtureView[] }) {
  const edit = useEdit();
  const alike = chosen.filter((one) => one.profile === fixture.profile && one.mode === fixture.mode);
  if (fixture.blocks.length < 2) return null;
  const set = async (block: number, lies: string) => {
    let wrong = "";
    const body = { ids: alike.map((one) => one.id), block, lies };
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
        <Box sx={{ fontWeight: 600 }}>Where its blocks lie</Box>
        <Cap>{alike.length > 1 ? `of all ${alike.length} chosen` : ""}</Cap>
      </Box>
      {fixture.blocks.map((block, index) => (
        <BlockRow
          // biome-ignore lint/suspicious/noArrayIndexKey: a block is its place in the mode
          key={index}
          block={block}
          last={index === fixture.blocks.length - 1}
          onSet={(lies) => set(index, lies)}
        />
      ))}
    </Part>
  );
}

interface RowProps {
  block: Block;
  last: boolean;
  onSet: (lies: string) => Promise<string>;
}

function BlockRow({ block, last, onSet }: RowProps) {
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: "12px minmax(0,1fr) 128px 62px",
        columnGap: 1,
        alignItems: "center",
        height: 34,
      }}
    >
      <Glyph block={block} joined={!last} />
      <Box
        title={`${block.name}, ${block.footprint} channels`}
        sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
      >
        {block.name} <span style={{ fontSize: 12, color: ink.soft }}>{block.footprint} ch</span>
      </Box>
      <Typed
        label={`Where ${block.name} lies`}
        value={block.lies}
        placeholder="nowhere"
        onCommit={(lies) => onSet(lies)}
      />
      <Num style={{ color: ink.soft, textAlign: "right" }}>{block.apart ? "" : block.address}</Num>
    </Box>
  );
}

/** A square for a block, joined to the next; hollow where it lies nowhere, barred where it has its own address. */
function Glyph({ block, joined }: { block: Block; joined: boolean }) {
  const nowhere = !block.lies;
  return (
    <svg width="12" height="14" style={{ overflow: "visible" }} aria-hidden="true">
      {joined && <path d="M6.5 14V38" stroke={ink.hair2} strokeWidth="1.5" />}
      {block.apart && <path d="M1 1V14" stroke={ink.sea} strokeWidth="2" />}
      <rect
        x="2.5"
        y="3"
        width="8"
        height="8"
        fill={nowhere ? "none" : ink.sea}
        stroke={nowhere ? ink.soft : ink.sea}
      />
      {nowhere && <path d="M3 11 10 3" stroke={ink.soft} />}
    </svg>
  );
}
