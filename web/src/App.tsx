import { Box, CssBaseline, ThemeProvider } from "@mui/material";
import { QueryClientProvider } from "@tanstack/react-query";
import { Suspense, useEffect, useMemo } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { queries, useShow } from "./api/show";
import { Header } from "./components/Header";
import { Help } from "./components/Help";
import { Keys } from "./components/Keys";
import { LiveStrip } from "./components/LiveStrip";
import { Loading } from "./components/Loading";
import { Notice } from "./components/Notice";
import { PassGate } from "./components/PassGate";
import { Check, FaultList, fetchAll, Looks, Matrices, Patch, Phone, Plan, Profiles, Rig, Run } from "./pages";
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
          <BrowserRouter>
            <Suspense fallback={null}>
              <Routes>
                <Route path="/phone" element={<Phone />} />
                <Route path="/faults" element={<FaultList />} />
                <Route path="*" element={<Stations />} />
              </Routes>
            </Suspense>
            <Notice />
          </BrowserRouter>
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
          gridTemplateRows: "48px minmax(0,1fr) 92px",
          height: "100vh",
          minWidth: 960,
        }}
      >
        <Header />
        <Suspense fallback={<Loading error={null} />}>
          <Routes>
            <Route path="/rig" element={<Rig />} />
            <Route path="/rig/plan" element={<Plan />} />
            <Route path="/rig/profiles/:profile?" element={<Profiles />} />
            <Route path="/patch" element={<Patch />} />
            <Route path="/matrices" element={<Matrices />} />
            <Route path="/looks" element={<Looks />} />
            <Route path="/run" element={<Run />} />
            <Route path="/check" element={<Check />} />
            <Route path="*" element={<Begin />} />
          </Routes>
        </Suspense>
        <LiveStrip />
      </Box>
      <Help />
    </>
  );
}

/** Where the address names no station: an empty show begins at the Rig, one with looks at them. */
function Begin() {
  const { data, error } = useShow();
  if (!data) return <Loading error={error} />;
  return <Navigate to={data.looks.length ? "/looks" : "/rig"} replace />;
}
