import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "wouter";
import { answer, client, type Schemas } from "../api/client";
import { useShow } from "../api/show";
import { useLive } from "../stores/live";
import { ink } from "../theme/tokens";
import { Num } from "./atoms";

/** What is stored reaches the engine, and so these steps, a moment later. */
const AGAIN_MS = 1500;
const LEFT = "heliograph.firstSteps.left";

const BEGUN = "heliograph.firstSteps.begun";

const listed = (key: string, show: string): boolean =>
  (localStorage.getItem(key) ?? "").split(" ").includes(show);
const list = (key: string, show: string): void =>
  listed(key, show)
    ? undefined
    : localStorage.setItem(key, `${localStorage.getItem(key) ?? ""} ${show}`.trim());

/** The way from an empty show to light, beneath the header: what is done, what to do next. It begins where a show was
 * seen empty in this browser, and can be left at any step. */
export function FirstSteps() {
  const { data: show } = useShow();
  const known = show?.show.id ?? "";
  const [gone, setGone] = useState("");
  const running = useLive(
    (live) => live.engine?.state.running.map((run) => `${run.run}${run.ends}`).join() ?? "",
  );
  if (show && !show.fixtures.length) list(BEGUN, known);
  const away = !known || gone === known || listed(LEFT, known) || !listed(BEGUN, known);
  const { data: steps } = useQuery({
    queryKey: ["first-steps", known, show?.show.revision, running],
    queryFn: async () => (await answer(client.GET("/api/first-steps"))) as Schemas["FirstStep"][],
    enabled: !away,
    staleTime: 0,
    refetchInterval: AGAIN_MS,
    placeholderData: (before) => before,
  });
  if (away || !steps) return null;
  const next = steps.find((step) => !step.done);
  const leave = () => {
    list(LEFT, known);
    setGone(known);
  };
  return (
    <Box
      component="nav"
      aria-label="First steps"
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1.5,
        minHeight: 40,
        px: 2,
        borderBottom: `1px solid ${ink.hair}`,
        background: ink.brassGround,
        fontSize: 13,
        overflow: "hidden",
      }}
    >
      {steps.map((step, n) => (
        <Link
          key={step.name}
          href={`/${step.station}`}
          aria-current={step === next ? "step" : undefined}
          title={step.says}
          style={{
            display: "flex",
            alignItems: "center",
            gap: 6,
            whiteSpace: "nowrap",
            textDecoration: "none",
            color: step === next ? ink.text : step.done ? ink.sea : ink.soft,
            fontWeight: step === next ? 600 : 400,
          }}
        >
          <Num>{step.done ? "\u2713" : n + 1}</Num>
          {step.name}
        </Link>
      ))}
      <Box sx={{ flex: 1, minWidth: 0, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
        {next ? next.says : `There is light: ${steps.at(-1)?.says ?? ""}.`}
      </Box>
      <Button variant="text" sx={{ px: 0.75, color: ink.soft, whiteSpace: "nowrap" }} onClick={leave}>
        {next ? "Leave these steps" : "Done"}
      </Button>
    </Box>
  );
}
