import { Box, Button } from "@mui/material";
import { useState } from "react";
import { Cap, Part } from "../../../components/atoms";
import { FileChooser } from "../../../components/FileChooser";
import { Typed } from "../../../components/Typed";
import { ink } from "../../../theme/tokens";
import { AttributeField } from "./AttributeField";
import { pictureOf } from "./pictureOf";
import { useAttributes } from "./useAttributes";
import type { Channel, Range } from "./useProfileDraft";

const KINDS: Range["kind"][] = ["named", "closed", "dim", "open", "strobe", "default"];

interface RangesProps {
  channel: Channel;
  onChange: (ranges: Range[]) => void;
}

/** What parts of the channel's values mean, so that people choose words and not numbers. */
export function RangesEditor({ channel, onChange }: RangesProps) {
  const { ranges } = channel;
  const [open, setOpen] = useState(-1);
  const { wordOf } = useAttributes();
  const end = ranges.at(-1)?.last ?? -1;
  const add = () =>
    onChange([
      ...ranges,
      { first: end + 1, last: 255, kind: "named", name: "", attribute: "", colour: "", picture: "" },
    ]);
  const set = (at: number, change: Partial<Range>) =>
    onChange(ranges.map((one, index) => (index === at ? { ...one, ...change } : one)));
  return (
    <Part>
      <Box sx={{ display: "flex", alignItems: "center", mb: 1 }}>
        <Box sx={{ fontWeight: 600 }}>Value ranges</Box>
        <Button sx={{ ml: "auto" }} onClick={add} disabled={end >= 255}>
          Add
        </Button>
      </Box>
      {!ranges.length && <Cap>The whole of 0 to 255 does one thing.</Cap>}
      {ranges.map((range, index) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: a range is its place
          key={index}
          role="group"
          aria-label={`Range ${index + 1}`}
          sx={{ borderTop: index ? `1px solid ${ink.hair}` : 0, py: 0.75, display: "grid", gap: 0.5 }}
        >
          <Box
            sx={{
              display: "grid",
              gridTemplateColumns: "84px minmax(0,1fr) auto",
              gap: 0.75,
              alignItems: "center",
            }}
          >
            <Typed
              numeric
              label={`Values of range ${index + 1}`}
              value={`${range.first}-${range.last}`}
              onCommit={(text) => {
                const match = /^\s*(\d+)\s*(?:-|to)\s*(\d+)\s*$/.exec(text);
                if (!match || Number(match[2]) > 255) return "From and to, such as 8-134.";
                return set(index, { first: Number(match[1]), last: Number(match[2]) });
              }}
            />
            <Typed
              label={`Name of range ${index + 1}`}
              value={range.name}
              placeholder="its word"
              onCommit={(name) => set(index, { name: name.trim() })}
            />
            <Button
              variant="text"
              aria-label={`Remove range ${index + 1}`}
              onClick={() => onChange(ranges.filter((_, n) => n !== index))}
            >
              ×
            </Button>
          </Box>
          <Box sx={{ display: "flex", gap: 0.75, alignItems: "center" }}>
            <Box
              component="select"
              aria-label={`Kind of range ${index + 1}`}
              value={range.kind}
              onChange={(event: React.ChangeEvent<HTMLSelectElement>) =>
                set(index, { kind: event.target.value as Range["kind"] })
              }
              sx={{
                height: 26,
                font: "inherit",
                fontSize: 13,
                color: ink.text,
                background: ink.ground,
                border: `1px solid ${ink.hair2}`,
                borderRadius: "4px",
              }}
            >
              {KINDS.map((kind) => (
                <option key={kind}>{kind}</option>
              ))}
            </Box>
            <Button
              variant="text"
              aria-label={`What range ${index + 1} does`}
              aria-expanded={open === index}
              title="One channel may do several things: this part can have an attribute of its own"
              onClick={() => setOpen(open === index ? -1 : index)}
              sx={{ minWidth: 0, px: 0.5, color: range.attribute ? ink.text : ink.soft }}
            >
              {range.attribute ? wordOf(range.attribute) : "as the channel"}
            </Button>
            {range.kind === "named" && (
              <Swatch range={range} number={index + 1} onChange={(change) => set(index, change)} />
            )}
          </Box>
          {open === index && (
            <Box sx={{ display: "grid", gap: 0.5 }}>
              <AttributeField
                value={range.attribute || channel.attribute}
                onChange={(attribute) => {
                  set(index, { attribute: attribute === channel.attribute ? "" : attribute });
                  setOpen(-1);
                }}
              />
              {range.kind === "named" && (
                <Picture range={range} number={index + 1} onChange={(change) => set(index, change)} />
              )}
              {range.attribute && (
                <Button
                  variant="text"
                  sx={{ justifySelf: "start" }}
                  onClick={() => {
                    set(index, { attribute: "" });
                    setOpen(-1);
                  }}
                >
                  As the channel
                </Button>
              )}
            </Box>
          )}
        </Box>
      ))}
    </Part>
  );
}

interface SwatchProps {
  range: Range;
  number: number;
  onChange: (change: Partial<Range>) => void;
}

/** What a named range looks like: its picture, and its colour, typed. */
function Swatch({ range, number, onChange }: SwatchProps) {
  return (
    <>
      {range.picture && (
        <img
          src={range.picture}
          alt=""
          width={22}
          height={22}
          style={{ borderRadius: 3, display: "block" }}
        />
      )}
      {range.colour && (
        <Box sx={{ width: 16, height: 16, borderRadius: "3px", background: range.colour, flex: "none" }} />
      )}
      <Typed
        numeric
        width={80}
        label={`Colour of range ${number}`}
        value={range.colour}
        placeholder="#rrggbb"
        onCommit={(text) =>
          !text.trim() || /^#[0-9a-f]{6}$/i.test(text.trim())
            ? onChange({ colour: text.trim().toLowerCase() })
            : "Such as #e03020."
        }
      />
    </>
  );
}

function Picture({ range, number, onChange }: SwatchProps) {
  if (range.picture)
    return (
      <Button variant="text" sx={{ justifySelf: "start" }} onClick={() => onChange({ picture: "" })}>
        No picture
      </Button>
    );
  return (
    <FileChooser
      label={`Picture of range ${number}`}
      accept="image/*"
      onFiles={async ([file]) => file && onChange({ picture: await pictureOf(file) })}
    >
      Picture
    </FileChooser>
  );
}
