import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answer, client, type Fault, isFault, type Schemas } from "../api/client";
import { queries } from "../api/show";
import { ink } from "../theme/tokens";
import { Cap, FaultNote, Num } from "./atoms";
import { Popover } from "./LazyMui";

type AccessView = Schemas["AccessView"];
type Role = Schemas["CodeView"]["role"];

const ALLOWS: Record<Role, string> = {
  view: "sees everything",
  run: "also starts looks, masters, walks, makes lasers safe",
  edit: "may do everything, arming too",
};

const LOCAL = /^https?:\/\/(127\.|localhost)/;

export function useAccess() {
  return useQuery<AccessView, Fault>({
    queryKey: ["access"],
    queryFn: async () => (await answer(client.GET("/api/access"))) as AccessView,
  });
}

/** One's own role and, for whoever may edit, the codes, a way in for phones, and who is in. */
export function Access() {
  const button = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  const { data } = useAccess();
  if (!data?.asks_pass) return null;
  return (
    <>
      <Button
        ref={button}
        variant="text"
        onClick={() => {
          setOpen(!open);
          void queries.invalidateQueries({ queryKey: ["access"] });
        }}
        title={`You are here as ${data.role}: ${ALLOWS[data.role]}`}
      >
        {data.role}
      </Button>
      <Popover
        open={open}
        anchorEl={button.current}
        onClose={() => setOpen(false)}
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
        slotProps={{ paper: { sx: { width: 420, border: `1px solid ${ink.hair2}` } } }}
      >
        {data.role === "edit" ? (
          <Inside view={data} />
        ) : (
          <Cap sx={{ p: 1.5 }}>
            You are here as {data.role}: {ALLOWS[data.role]}. For more, give another code.
          </Cap>
        )}
      </Popover>
    </>
  );
}

function Inside({ view }: { view: AccessView }) {
  const [shown, setShown] = useState<Role>("run");
  const [fault, setFault] = useState<Fault | null>(null);
  const run = async (task: () => Promise<unknown>) => {
    setFault(null);
    try {
      await task();
      await queries.invalidateQueries({ queryKey: ["access"] });
    } catch (problem) {
      if (!isFault(problem)) throw problem;
      setFault(problem);
    }
  };
  const code = view.codes.find((one) => one.role === shown)?.code ?? "";
  return (
    <Box sx={{ p: 1.5 }} role="group" aria-label="Access">
      <b style={{ fontWeight: 600 }}>Who may come in</b>
      {view.codes.map((one) => (
        <Box
          key={one.role}
          sx={{
            display: "grid",
            gridTemplateColumns: "44px 1fr auto auto",
            gap: 1,
            alignItems: "center",
            mt: 0.5,
          }}
        >
          <span>{one.role}</span>
          <Num aria-label={`Code for ${one.role}`}>{one.code}</Num>
          <Button aria-pressed={shown === one.role} onClick={() => setShown(one.role)}>
            QR code
          </Button>
          <Button
            onClick={() =>
              run(() =>
                answer(client.POST("/api/access/codes/{role}", { params: { path: { role: one.role } } })),
              )
            }
          >
            New code
          </Button>
          <Cap sx={{ gridColumn: "2 / -1", mt: -0.75 }}>{ALLOWS[one.role]}</Cap>
        </Box>
      ))}
      <Box sx={{ display: "flex", gap: 1.5, mt: 1.5, alignItems: "center" }}>
        <img
          src={`/api/access/qr/${shown}?of=${code}`}
          alt={`QR code that lets a phone in as ${shown}`}
          width="132"
          height="132"
          style={{ background: "#fff", borderRadius: 4 }}
        />
        <Cap>
          Point a phone at it: it comes in as <b>{shown}</b> at
          <br />
          <Num>{view.address}</Num>
          {LOCAL.test(view.address) && (
            <>
              <br />
              This machine has no network card that a phone could reach.
            </>
          )}
        </Cap>
      </Box>
      <Cap sx={{ mt: 1.5 }}>{view.sessions.length ? "Here, or lately" : "Nobody has given a code yet"}</Cap>
      <Box sx={{ maxHeight: 160, overflowY: "auto" }}>
        {view.sessions.map((one) => (
          <Box
            key={one.id}
            sx={{ display: "grid", gridTemplateColumns: "44px 1fr auto auto", gap: 1, alignItems: "center" }}
          >
            <span>{one.role}</span>
            <Box sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
              {one.device}
            </Box>
            <Cap>
              {new Date(one.seen_s * 1000).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })}
            </Cap>
            <Button
              variant="text"
              onClick={() =>
                run(() =>
                  answer(
                    client.DELETE("/api/access/sessions/{session_id}", {
                      params: { path: { session_id: one.id } },
                    }),
                  ),
                )
              }
            >
              End
            </Button>
          </Box>
        ))}
      </Box>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
    </Box>
  );
}
