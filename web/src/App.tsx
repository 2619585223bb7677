import { Box, CssBaseline, ThemeProvider } from "@mui/material";
import { QueryClientProvider } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { Redirect, Route, Switch } from "wouter";
import { queries, useShow } from "./api/show";
import { Header } from "./components/Header";
import { Keys } from "./components/Keys";
import { LiveStrip } from "./components/LiveStrip";
import { Loading } from "./components/Loading";
import { Notice } from "./components/Notice";
import { PassGate } from "./components/PassGate";
import {
  Check,
  Clock,
  FaultList,
  FirstSteps,
  fetchAll,
  Help,
  Looks,
  Matrices,
  Page,
  Pages,
  Patch,
  Phone,
  Plan,
  Profiles,
  Rig,
  Run,
  Score,
  WhatIs,
} from "./pages";
import { useView } from "./stores/view";
import { makeTheme } from "./theme/theme";

/** All pages: the stations in their frame, and two that stand alone. */
export function App() {
  const name = useView((view) => view.theme);
  const theme = useMemo(() => makeTheme(name), [name]);
  useEffect(() => {
    document.documentElement.dataset.theme = name;
  }, [name]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <QueryClientProvider client={queries}>
        <PassGate>
          <Switch>
            <Route path="/phone" component={Phone} />
            <Route path="/faults" component={FaultList} />
            <Route path="/page/:slug" component={Page} />
            <Route component={Stations} />
          </Switch>
          <Notice />
        </PassGate>
      </QueryClientProvider>
    </ThemeProvider>
  );
}

/** After the first screen stands, the others are fetched. */
const FETCH_ALL_MS = 1500;

/** The frame: header, the station's screen, the live strip. */
function Stations() {
  useEffect(() => {
    const timer = setTimeout(fetchAll, FETCH_ALL_MS);
    return () => clearTimeout(timer);
  }, []);
  return (
    <>
      <Keys />
      <Box
        sx={{
          display: "grid",
          gridTemplateRows: "auto minmax(0,1fr) 92px",
          height: "100vh",
          minWidth: 960,
        }}
      >
        <div>
          <Header />
          <FirstSteps />
        </div>
        <Switch>
          <Route path="/rig" component={Rig} />
          <Route path="/rig/plan" component={Plan} />
          <Route path="/rig/profiles/:profile?" component={Profiles} />
          <Route path="/patch" component={Patch} />
          <Route path="/matrices" component={Matrices} />
          <Route path="/looks" component={Looks} />
          <Route path="/run" component={Run} />
          <Route path="/run/score" component={Score} />
          <Route path="/run/pages" component={Pages} />
          <Route path="/run/clock" component={Clock} />
          <Route path="/check" component={Check} />
          <Route component={Begin} />
        </Switch>
        <LiveStrip />
      </Box>
      <Help />
      <WhatIs />
    </>
  );
}

/** Where the address names no station: an empty show begins at the Rig, one with looks at them. */
function Begin() {
  const { data, error } = useShow();
  if (!data) return <Loading error={error} />;
  return <Redirect to={data.looks.length ? "/looks" : "/rig"} replace />;
}
