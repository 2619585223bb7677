import { Box, Button } from "@mui/material";
import { useRef, useState } from "react";
import { answer, client, problemOf } from "../api/client";
import type { paths } from "../api/schema";
import { notify } from "../stores/notices";
import { ink } from "../theme/tokens";
import { Popover } from "./LazyMui";

type Doing = paths["/api/before/{doing}/{key}"]["get"]["parameters"]["path"]["doing"];

interface Asked {
  at: HTMLElement;
  says: string;
  onSure: () => unknown;
}

/**
 * A word about what will happen to the light, at the button that would do it; where no lamp would change it is done at
 * once. `verb` names what is done: "Delete it".
 */
export function useSure(verb: string) {
  const [asked, setAsked] = useState<Asked | null>(null);
  const busy = useRef(false);
  const ask = async (at: HTMLElement, doing: Doing, key: string, onSure: () => unknown) => {
    if (busy.current) return; // pressed twice is meant once
    busy.current = true;
    try {
      await asking(at, doing, key, onSure);
    } finally {
      busy.current = false;
    }
  };
  const asking = async (at: HTMLElement, doing: Doing, key: string, onSure: () => unknown) => {
    let says = "";
    const problem = await problemOf(async () => {
      ({ says } = await answer(
        client.GET("/api/before/{doing}/{key}", { params: { path: { doing, key } } }),
      ));
    });
    if (problem) notify({ what: problem, where: "", repair: "", status: 422 });
    else if (says) setAsked({ at, says, onSure });
    else await onSure();
  };
  const panel = asked && (
    <Popover
      open
      anchorEl={asked.at}
      onClose={() => setAsked(null)}
      anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
      transformOrigin={{ vertical: "top", horizontal: "right" }}
      slotProps={{ paper: { sx: { width: 300, border: `1px solid ${ink.brass}`, p: 1.5 } } }}
    >
      <Box role="alertdialog" aria-label={asked.says} sx={{ fontSize: 14, lineHeight: "20px" }}>
        {asked.says}
        <Box sx={{ display: "flex", gap: 1, mt: 1.25, justifyContent: "flex-end" }}>
          <Button
            color="error"
            variant="outlined"
            onClick={() => {
              setAsked(null);
              void asked.onSure();
            }}
          >
            {verb}
          </Button>
          <Button autoFocus onClick={() => setAsked(null)}>
            Leave it
          </Button>
        </Box>
      </Box>
    </Popover>
  );
  return { ask, panel };
}
