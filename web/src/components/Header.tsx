import { Box, Button, styled } from "@mui/material";
import { Link, useLocation } from "wouter";
import { answer, client } from "../api/client";
import { useEdit, useShow } from "../api/show";
import { useLive } from "../stores/live";
import { STATION_NAMES, STATIONS, toggleTheme, useView } from "../stores/view";
import { ink, mono } from "../theme/tokens";
import { KeyCap, Unseen } from "./atoms";
import { fetched } from "./fetched";
import { Mark } from "./Mark";
import { redo, undo } from "./steps";
import { Typed } from "./Typed";

/** The shows there are: fetched after the first screen; its place is kept. */
const ShowMenu = fetched(
  async () => (await import("./ShowMenu")).ShowMenu,
  <Box component="span" sx={{ width: 28, flex: "none" }} />,
);

/** Who is here: fetched after the first screen. */
const Access = fetched(async () => (await import("./Access")).Access);

/** Below it words give way, so that nothing is cut. */
const NARROW = "@media (max-width: 1220px)";

const StationLink = styled(Link)({
  position: "relative",
  display: "flex",
  alignItems: "center",
  gap: 7,
  padding: "0 15px",
  color: ink.soft,
  fontSize: 14.5,
  textDecoration: "none",
  [NARROW]: { padding: "0 9px", gap: 5 },
  "& b": {
    font: `500 11.5px ${mono}`,
    color: ink.faint,
    border: `1px solid ${ink.hair2}`,
    borderRadius: 3,
    padding: "0 4px",
    lineHeight: "14px",
  },
  "&:hover": { color: ink.text },
  "&[aria-current]": { color: ink.text, fontWeight: 600 },
  "&[aria-current] b": { color: ink.ground, background: ink.brass, borderColor: ink.brass },
  "&[aria-current]:before": {
    content: '""',
    position: "absolute",
    left: 15,
    right: 15,
    bottom: -1,
    height: 2,
    background: ink.brass,
  },
  "&[aria-current]:after": {
    content: '""',
    position: "absolute",
    left: "50%",
    top: 46,
    width: 260,
    height: 110,
    transform: "translateX(-50%)",
    background: `conic-gradient(from 146deg at 50% 0, transparent, color-mix(in srgb, ${ink.brass} 10%, transparent) 34deg, transparent 68deg)`,
    maskImage: "linear-gradient(#000, transparent)",
    pointerEvents: "none",
    zIndex: 2,
  },
});

/** Show name, the six stations, undo and redo, who else is here, theme, help. */
export function Header() {
  const { data } = useShow();
  const people = useLive((live) => live.people);
  const theme = useView((view) => view.theme);
  const edit = useEdit();
  const [here] = useLocation();
  return (
    <Box
      component="header"
      sx={{
        display: "flex",
        alignItems: "stretch",
        height: 48,
        borderBottom: `1px solid ${ink.hair}`,
        px: 2,
        gap: 2,
        position: "relative",
        [NARROW]: { px: 1.25, gap: 0.75, "& .MuiButton-root span": { display: "none" } },
      }}
    >
      <Unseen as="h1" sx={{ m: 0 }}>
        {STATION_NAMES[STATIONS.find((one) => one === here.split("/")[1]) ?? "rig"]}
      </Unseen>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.25, fontWeight: 650 }}>
        <Mark />
        <Box component="span" sx={{ [NARROW]: { display: "none" } }}>
          Heliograph
        </Box>
      </Box>
      <Box
        sx={{
          alignSelf: "center",
          flex: "0 1 214px",
          [NARROW]: { flexBasis: 170 },
          minWidth: 120,
          color: ink.soft,
          fontSize: 13,
          display: "flex",
          alignItems: "center",
        }}
      >
        <Typed
          quiet
          label="Name of the show"
          value={data?.show.name ?? ""}
          onCommit={(name) => edit(() => answer(client.PATCH("/api/show", { body: { name } })))}
        />
        <ShowMenu />
      </Box>
      <Box
        component="nav"
        aria-label="Stations"
        sx={{ display: "flex", alignItems: "stretch", mx: "auto", gap: "2px" }}
      >
        {STATIONS.map((station, index) => (
          <StationLink
            key={station}
            to={`/${station}`}
            aria-current={here.split("/")[1] === station ? "page" : undefined}
          >
            <b>{index + 1}</b>
            {STATION_NAMES[station]}
          </StationLink>
        ))}
      </Box>
      <Box sx={{ display: "flex", alignItems: "center", gap: 0.5, color: ink.soft }}>
        <span title={data?.undo ? `Take back: ${data.undo}` : "Nothing to take back"}>
          <Button variant="text" disabled={!data?.undo} onClick={undo}>
            Undo <KeyCap>Z</KeyCap>
          </Button>
        </span>
        <span title={data?.redo ? `Do again: ${data.redo}` : "Nothing to do again (Shift Z)"}>
          <Button variant="text" disabled={!data?.redo} onClick={redo}>
            Redo
          </Button>
        </span>
        <Box
          title={people > 1 ? `${people} people have this show open` : "Nobody else has this show open"}
          sx={{ px: 0.5, fontSize: 13, whiteSpace: "nowrap" }}
        >
          {people} here
        </Box>
        <Access />
        <Button variant="text" onClick={toggleTheme} aria-label={`Theme ${theme}: change it`}>
          {theme === "night" ? "Night" : "Light"}
        </Button>
        <Button variant="text" onClick={() => useView.setState({ help: true })}>
          Help <KeyCap>?</KeyCap>
        </Button>
      </Box>
    </Box>
  );
}
