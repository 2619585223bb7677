import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { fixturesOf } from "../model/names";
import { ink } from "../theme/tokens";
import { Cap } from "./atoms";
import { useSure } from "./useSure";

type Listed = Schemas["ShowListed"];

interface ShowListProps {
  all: Listed[];
  onOpen: (one: Listed) => void;
  onDelete: (one: Listed) => void;
  onRestore: (one: Listed) => void;
}

/** The shows told apart by size and by when they were changed; deleted ones wait below for 30 days. */
export function ShowList({ all, onOpen, onDelete, onRestore }: ShowListProps) {
  const [shown, setShown] = useState(false);
  const sure = useSure("Open it");
  const there = all.filter((one) => one.deleted_s === null);
  const gone = all.filter((one) => one.deleted_s !== null);
  return (
    <>
      {sure.panel}
      <Box sx={{ maxHeight: 280, overflowY: "auto", mx: -1.5 }}>
        {there.map((one) => (
          <Box
            key={one.id}
            sx={{
              display: "flex",
              alignItems: "center",
              pr: 1,
              background: one.is_open ? ink.brassGround : "none",
              "&:hover": { background: one.is_open ? ink.brassGround : ink.row },
            }}
          >
            <Box
              component="button"
              disabled={one.is_open}
              onClick={(event: React.MouseEvent<HTMLElement>) =>
                void sure.ask(event.currentTarget, "open", one.id, () => onOpen(one))
              }
              sx={{
                flex: 1,
                minWidth: 0,
                px: 1.5,
                py: 0.75,
                font: "inherit",
                color: "inherit",
                textAlign: "left",
                border: 0,
                background: "none",
                cursor: one.is_open ? "default" : "pointer",
              }}
            >
              <Box component="span" sx={{ display: "block", overflow: "hidden", textOverflow: "ellipsis" }}>
                {one.name}
              </Box>
              <Cap as="span">
                {fixturesOf(one)}, {one.is_open ? "open now" : `changed ${when(one.changed_s)}`}
              </Cap>
            </Box>
            {!one.is_open && (
              <Button
                variant="text"
                aria-label={`Delete show ${one.name}`}
                title="Delete it; it is kept for 30 days"
                onClick={() => onDelete(one)}
                sx={{ minWidth: 0, color: ink.soft }}
              >
                ×
              </Button>
            )}
          </Box>
        ))}
      </Box>
      {gone.length > 0 && (
        <Button
          variant="text"
          aria-expanded={shown}
          onClick={() => setShown(!shown)}
          sx={{ px: 0.5, color: ink.soft }}
        >
          Deleted: {gone.length}
        </Button>
      )}
      {shown && (
        <Box sx={{ maxHeight: 180, overflowY: "auto" }}>
          {gone.map((one) => (
            <Box key={one.id} sx={{ display: "flex", alignItems: "center", gap: 1, py: 0.25 }}>
              <Box sx={{ flex: 1, minWidth: 0 }}>
                {one.name}
                <Cap>
                  {fixturesOf(one)}, deleted {when(one.deleted_s)}, kept for 30 days
                </Cap>
              </Box>
              <Button aria-label={`Bring back ${one.name}`} onClick={() => onRestore(one)}>
                Bring back
              </Button>
            </Box>
          ))}
        </Box>
      )}
    </>
  );
}

/** Opens a show that was just loaded, with the same word beforehand. */
export function LoadedOpen({ show, onOpen }: { show: Listed; onOpen: (one: Listed) => void }) {
  const sure = useSure("Open it");
  return (
    <>
      <Button
        color="primary"
        sx={{ ml: "auto" }}
        onClick={(event) => void sure.ask(event.currentTarget, "open", show.id, () => onOpen(show))}
      >
        Open
      </Button>
      {sure.panel}
    </>
  );
}

/** A moment of the server as people say it: the time today, else the day too. */
function when(seconds: number | null): string {
  if (seconds === null) return "never";
  const moment = new Date(seconds * 1000);
  const time = moment.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  if (moment.toDateString() === new Date().toDateString()) return `today ${time}`;
  const day = moment.toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
  return `${day}, ${time}`;
}
