import { Box } from "@mui/material";
import { useShownShow } from "../../api/show";
import { Cap, FaultNote, Num, Pane, PaneHead, Part, Scroll } from "../../components/atoms";
import { Loading } from "../../components/Loading";
import { Typed } from "../../components/Typed";
import { ink, mono } from "../../theme/tokens";
import { RunViews } from "../run/RunViews";
import { Rules } from "./Rules";
import { StartOfDay } from "./StartOfDay";
import { type Rule, useClockEdits, useWeek, type Week } from "./useClock";

/** Run, Clock: what starts by itself, the next seven days, and what runs when the machine is switched on. */
export function Clock() {
  const { data, error } = useShownShow();
  const edits = useClockEdits();
  const week = useWeek(data?.show.revision ?? 0);
  const clock = data?.clocks[0];
  return (
    <Box
      component="main"
      sx={{
        display: "grid",
        gridTemplateColumns: "minmax(0,1fr) clamp(320px, 30vw, 520px)",
        minHeight: 0,
      }}
    >
      <Pane>
        <Box
          sx={{ display: "flex", alignItems: "center", borderBottom: `1px solid ${ink.hair}`, minHeight: 56 }}
        >
          <RunViews at="clock" />
          <Box sx={{ ml: "auto", pr: 2, textAlign: "right" }}>
            <Box sx={{ font: `500 20px ${mono}` }}>{week.data?.now ?? "–"}</Box>
            <Cap>
              {[week.data?.zone.replace("_", " "), ...(week.data?.sun ?? [])].filter(Boolean).join(", ")}
            </Cap>
          </Box>
        </Box>
        {!data ? <Loading error={error} /> : <Rules show={data} rules={clock?.rules ?? []} edits={edits} />}
      </Pane>
      <Pane>
        <Scroll tabIndex={0} role="group" aria-label="The next seven days">
          <Days week={week.data} rules={clock?.rules ?? []} />
          <Part role="group" aria-label="Where this is">
            <Box sx={{ display: "grid", gridTemplateColumns: "72px 1fr", gap: 1, alignItems: "center" }}>
              <Cap>place</Cap>
              <Typed
                label="Where this is, degrees"
                placeholder="57.70 N 2.00 W, for dusk and dawn"
                value={clock?.place ?? ""}
                onCommit={(place) => edits.set({ place })}
              />
              <Cap>time zone</Cap>
              <Typed
                label="Time zone"
                value={clock?.zone ?? week.data?.zone ?? ""}
                onCommit={(zone) => edits.set({ zone })}
              />
            </Box>
          </Part>
          {data && <StartOfDay show={data} />}
        </Scroll>
      </Pane>
    </Box>
  );
}

/** What is due, day by day; what is wrong with the time stands above it. */
function Days({ week, rules }: { week: Week | undefined; rules: Rule[] }) {
  if (!week) return null;
  const gone = new Set(rules.filter((one) => one.gone.length).map((one) => one.id));
  const days = [...new Set(week.due.map((one) => one.day))];
  return (
    <Box>
      <PaneHead title="Next seven days">
        <Cap>{week.due.length + week.more || "nothing"} due</Cap>
      </PaneHead>
      <Box sx={{ px: 2 }}>
        {week.faults.map((one) => (
          <FaultNote key={one} what={one} />
        ))}
        {!week.due.length && (
          <Cap sx={{ pb: 2, fontSize: 13 }}>Nothing starts by itself. A rule at the left is due here.</Cap>
        )}
      </Box>
      {days.map((day) => (
        <Box key={day} sx={{ px: 2, pb: 1 }}>
          <Box sx={{ fontWeight: 600, fontSize: 13, color: ink.soft, py: 0.5 }}>{day}</Box>
          {week.due
            .filter((one) => one.day === day)
            .map((one, n) => (
              <Box
                // biome-ignore lint/suspicious/noArrayIndexKey: one rule may be due twice at one time
                key={`${one.rule}${one.time}${n}`}
                sx={{
                  display: "grid",
                  gridTemplateColumns: "52px minmax(0,1fr) auto",
                  gap: 1,
                  py: 0.4,
                  borderTop: `1px solid ${ink.hair}`,
                  color: gone.has(one.rule) ? ink.coral : one === week.due[0] ? ink.brass : ink.text,
                }}
              >
                <Num>{one.time}</Num>
                <span
                  title={one.does}
                  style={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}
                >
                  {one.name || one.does}
                </span>
                <Cap>
                  {gone.has(one.rule) ? "is gone" : one === week.due[0] ? `in ${long(one.left_s)}` : ""}
                </Cap>
              </Box>
            ))}
        </Box>
      ))}
      {week.more > 0 && <Cap sx={{ px: 2, pb: 2 }}>and {week.more} more</Cap>}
    </Box>
  );
}

function long(seconds: number): string {
  if (seconds < 90) return `${Math.max(Math.round(seconds), 0)} s`;
  const minutes = Math.round(seconds / 60);
  return minutes < 90 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}
