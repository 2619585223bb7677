import { Box, Button } from "@mui/material";
import { useEffect } from "react";
import { useShow } from "../../api/show";
import { Loading } from "../../components/Loading";
import { addressOf, cellPosition } from "../../model/placements";
import { byKind, emitterWord, runsOf, writtenOf } from "../../model/walks";
import { useView } from "../../stores/view";
import { ink, mono } from "../../theme/tokens";
import { MarkSign } from "./walk/MarkSign";
import { useFindings } from "./walk/Marks";

/** What walks found, on paper: what is wrong, where, and every mark with its address. */
export function FaultList() {
  const { data, error } = useShow();
  const findings = useFindings(data?.show.revision ?? 0);
  useEffect(() => {
    const before = useView.getState().theme;
    useView.setState({ theme: "light" });
    return () => useView.setState({ theme: before });
  }, []);
  if (!data) return <Loading error={error} />;
  const found = byKind(data.marks, data.fixtures);
  const bad = data.marks.filter(
    (one) => one.kind !== "good" && data.fixtures.some((f) => f.id === one.fixture),
  );
  return (
    <Box
      component="main"
      sx={{
        maxWidth: 760,
        mx: "auto",
        p: 4,
        background: ink.panel,
        minHeight: "100vh",
        "@media print": { p: 0, background: "none" },
      }}
    >
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 2 }}>
        <Box component="h1" sx={{ fontSize: 22, m: 0 }}>
          Faults, {data.show.name}
        </Box>
        <Button sx={{ ml: "auto", "@media print": { display: "none" } }} onClick={() => window.print()}>
          Print
        </Button>
      </Box>
      <p style={{ color: ink.soft }}>
        {new Date().toLocaleString("en-GB", { dateStyle: "long", timeStyle: "short" })}. Seen on test walks:{" "}
        {found.good.length} good, {found.dark.length} dark, {found["wrong place"].length} in the wrong place,{" "}
        {found["wrong colour"].length} in the wrong colour.
      </p>
      {!bad.length && (
        <p>{data.marks.length ? "Nothing is wrong that was marked." : "Nothing has been marked yet."}</p>
      )}
      <ol style={{ paddingLeft: 20 }}>
        {findings.map((one) => (
          <li key={one.key} style={{ marginBottom: 6 }}>
            {one.sentence}
          </li>
        ))}
      </ol>
      {bad.length > 0 && (
        <Box
          component="table"
          sx={{
            width: "100%",
            borderCollapse: "collapse",
            "& td": { borderBottom: `1px solid ${ink.hair}`, py: 0.5, pr: 1 },
          }}
        >
          <tbody>
            {runsOf(bad).map(({ first: one, last }) => {
              const fixture = data.fixtures.find((f) => f.id === one.fixture);
              const seen = one.seen as Record<string, unknown>;
              const place =
                typeof seen.fixture === "string" ? { fixture: seen.fixture, cell: Number(seen.cell) } : null;
              const says = place
                ? `lit at ${writtenOf(place, data.fixtures)}`
                : Object.entries(seen)
                    .map(
                      ([lit, shows]) =>
                        `${emitterWord(lit)} shows ${(shows as string[]).map(emitterWord).join(" and ") || "nothing"}`,
                    )
                    .join("; ");
              return (
                <tr key={one.id}>
                  <td>
                    <MarkSign kind={one.kind} size={14} />
                  </td>
                  <td style={{ fontFamily: mono }}>
                    {writtenOf(one, data.fixtures)}
                    {last > one.cell && `-${last}`}
                  </td>
                  <td>{fixture?.name}</td>
                  <td style={{ fontFamily: mono }}>
                    {fixture && one.cell ? addressOf(cellPosition(fixture, one.cell)) : fixture?.address}
                  </td>
                  <td>{one.kind}</td>
                  <td>{says}</td>
                  <td style={{ width: 60 }}>▢</td>
                </tr>
              );
            })}
          </tbody>
        </Box>
      )}
    </Box>
  );
}
