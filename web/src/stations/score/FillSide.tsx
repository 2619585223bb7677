import { Box, Button, ButtonBase } from "@mui/material";
import type { WholeShow } from "../../api/client";
import { Cap, Chip, FaultNote, KeyCap, Num, Part } from "../../components/atoms";
import { Typed } from "../../components/Typed";
import { rampCss } from "../../model/lines";
import type { Score } from "../../model/staff";
import { ink } from "../../theme/tokens";
import type { Fill } from "./useFill";

const MOODS = [
  ["calm", "M4 13h82v6H4Z"],
  ["rising", "M4 16 86 5v22Z"],
  ["full", "M4 5h82v22H4Z"],
] as const;

/** Bars that are written by themselves: the mood, colours and a seed; what was left out, and why. */
export function FillSide({ show, score, fill }: { show: WholeShow; score: Score; fill: Fill }) {
  const { asked, found } = fill;
  const turned = (list: string[], one: string) =>
    list.includes(one) ? list.filter((each) => each !== one) : [...list, one];
  const positions = show.presets.filter((one) => one.kind === "position");
  const accents = found?.entries.filter((one) => one.accent).length ?? 0;
  return (
    <Part role="group" aria-label="Fill">
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
        <b style={{ fontWeight: 600, fontSize: 15 }}>Fill</b>
        <Cap>bars</Cap>
        <Box sx={{ width: 92 }}>
          <Typed
            numeric
            label="Bars to fill"
            value={`${asked.first} to ${asked.last}`}
            onCommit={(text) => {
              const [first, last] = text.split(/\s*(?:to|-|–)\s*/).map(Number);
              if (!first || !last || last < first) return "Type bars like 17 to 24.";
              fill.change({ first, last });
              return "";
            }}
          />
        </Box>
        <Cap sx={{ ml: "auto" }}>{found ? "not written yet" : ""}</Cap>
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 1 }}>
        {MOODS.map(([mood, shape]) => {
          const on = asked.mood === mood;
          return (
            <ButtonBase
              key={mood}
              aria-pressed={on}
              onClick={() => fill.change({ mood })}
              sx={{
                display: "block",
                border: `1px solid ${on ? ink.brass : ink.hair2}`,
                background: on ? ink.brassGround : "none",
                color: on ? ink.brass : ink.text,
                borderRadius: 1,
                py: 0.5,
                fontSize: 13,
              }}
            >
              <svg width="90" height="32" viewBox="0 0 90 32" aria-hidden="true">
                <path d={shape} fill={on ? ink.brass : "none"} stroke={on ? ink.brass : ink.soft} />
              </svg>
              <Box sx={{ color: ink.text }}>{mood}</Box>
            </ButtonBase>
          );
        })}
      </Box>
      {fill.wrong && <FaultNote what={fill.wrong} />}
      {found && (
        <>
          <Cap sx={{ mt: 1, color: ink.text, fontSize: 13 }} role="status">
            Gives <Num>{found.entries.length - accents}</Num> entries, <Num>{accents}</Num> accents, dashed;{" "}
            <Num>{found.by_hand}</Num> by hand stay
          </Cap>
          {found.waiting.length > 0 && (
            <Cap role="status">
              Looking whether{" "}
              {found.waiting.length === 1 ? found.waiting[0] : `${found.waiting.length} looks`} flash…
            </Cap>
          )}
          {found.left_out.length > 0 && (
            <Box sx={{ mt: 1 }}>
              <b style={{ fontWeight: 600 }}>Left out, and why</b>
              {found.left_out.map((one) => (
                <Box
                  key={`${one.stave}${one.why}`}
                  sx={{ borderTop: `1px solid ${ink.hair}`, py: 0.5, fontSize: 13, lineHeight: "17px" }}
                >
                  <b style={{ fontWeight: 600 }}>{one.name}:</b> {one.why}
                  {one.why === "lasers not named" && (
                    <Button
                      variant="text"
                      sx={{ py: 0, minWidth: 0, color: ink.coral }}
                      onClick={() => fill.change({ lasers: [...asked.lasers, one.stave] })}
                    >
                      name it
                    </Button>
                  )}
                </Box>
              ))}
            </Box>
          )}
          <Box sx={{ display: "flex", gap: 1, mt: 1.25, flexWrap: "wrap" }}>
            <Button
              color="primary"
              variant="outlined"
              disabled={found.waiting.length > 0}
              onClick={() => void fill.keep()}
            >
              Keep {found.entries.length}&nbsp;<KeyCap>Enter</KeyCap>
            </Button>
            <Button onClick={fill.anew}>
              Fill anew&nbsp;<KeyCap>N</KeyCap>
            </Button>
            <Button onClick={fill.drop}>
              Drop&nbsp;<KeyCap>Esc</KeyCap>
            </Button>
          </Box>
        </>
      )}
      {!found && (
        <Button sx={{ mt: 1.25 }} disabled={!asked.staves.length} onClick={fill.offer}>
          Show what it would write
        </Button>
      )}
      <Rows>
        <Cap>staves</Cap>
        <Chips>
          {score.staves.map((one) => (
            <Chip
              key={one.id}
              active={asked.staves.includes(one.id)}
              aria-pressed={asked.staves.includes(one.id)}
              onClick={() => fill.change({ staves: turned(asked.staves, one.id) })}
            >
              {one.name}
            </Chip>
          ))}
        </Chips>
        {show.ramps.length > 0 && (
          <>
            <Cap>colours</Cap>
            <Chips>
              {show.ramps.map((one) => (
                <Chip
                  key={one.id}
                  active={asked.colours.includes(one.id)}
                  aria-pressed={asked.colours.includes(one.id)}
                  onClick={() => fill.change({ colours: turned(asked.colours, one.id) })}
                >
                  <span
                    style={{
                      width: 16,
                      height: 10,
                      borderRadius: 2,
                      background: rampCss(one.stops),
                      flex: "none",
                    }}
                  />
                  {one.name}
                </Chip>
              ))}
            </Chips>
          </>
        )}
        {positions.length > 0 && (
          <>
            <Cap>positions</Cap>
            <Chips>
              {positions.map((one) => (
                <Chip
                  key={one.id}
                  active={asked.positions.includes(one.id)}
                  aria-pressed={asked.positions.includes(one.id)}
                  onClick={() => fill.change({ positions: asked.positions.includes(one.id) ? [] : [one.id] })}
                >
                  {one.name}
                </Chip>
              ))}
              <Cap sx={{ alignSelf: "center" }}>{asked.positions.length ? "" : "as on the page"}</Cap>
            </Chips>
          </>
        )}
        <Cap>seed</Cap>
        <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
          <Box sx={{ width: 76 }}>
            <Typed
              numeric
              label="Seed of fill"
              value={String(asked.seed)}
              onCommit={(text) => {
                const seed = Number(text);
                if (!Number.isInteger(seed) || seed < 0) return "Type a whole number.";
                fill.change({ seed });
                return "";
              }}
            />
          </Box>
          <Cap>the same seed, the same entries</Cap>
        </Box>
      </Rows>
    </Part>
  );
}

function Rows({ children }: { children: React.ReactNode }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "64px 1fr", gap: 1, mt: 1.25, alignItems: "center" }}>
      {children}
    </Box>
  );
}

function Chips({ children }: { children: React.ReactNode }) {
  return <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>{children}</Box>;
}
