import { Box, Button, Dialog } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Fault, type Schemas } from "../../../api/client";
import { useEdit } from "../../../api/show";
import { Cap, Chip, FaultNote, Num } from "../../../components/atoms";
import { ink } from "../../../theme/tokens";

interface GuardProps {
  profile: string;
  name: string;
  guarded: boolean;
  /** Not stored yet, or with changes that are not: then the guard goes with them. */
  onGuard: () => void;
}

/** Whether fixtures of this profile are held safe until armed. Taking that away is an act of its own. */
export function GuardChip({ profile, name, guarded, onGuard }: GuardProps) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Chip
        active={guarded}
        aria-pressed={guarded}
        title={
          guarded
            ? "Held at its safe values until it is armed"
            : "Hold it at its safe values until it is armed"
        }
        onClick={() => (guarded ? setAsking(true) : onGuard())}
        sx={guarded ? { color: ink.coral, borderColor: ink.coral } : {}}
      >
        {guarded ? "△ guarded until armed" : "not guarded"}
      </Chip>
      {asking && <TakeAway profile={profile} name={name} onClose={() => setAsking(false)} />}
    </>
  );
}

function TakeAway({ profile, name, onClose }: { profile: string; name: string; onClose: () => void }) {
  const edit = useEdit();
  const [fault, setFault] = useState<Fault | null>(null);
  const params = { path: { profile_id: profile } };
  const { data } = useQuery<Schemas["GuardedFixture"][], Fault>({
    queryKey: ["guard", profile],
    queryFn: async () => await answer(client.GET("/api/profiles/{profile_id}/guard", { params })),
    staleTime: 0,
  });
  const take = async () => {
    const body = { guarded: false, fixtures: (data ?? []).map((one) => one.id) };
    if (await edit(() => answer(client.POST("/api/profiles/{profile_id}/guard", { params, body })), setFault))
      onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="take-guard">
      <Box sx={{ p: 2.5, width: 420 }}>
        <Box component="h2" id="take-guard" sx={{ m: 0, mb: 1, fontSize: 16 }}>
          Take the guard from {name}?
        </Box>
        <Cap sx={{ mb: 1 }}>
          {data?.length
            ? "These are made safe by it. After that they are driven like any lamp, without being armed; their addresses stay safe until somebody says at Check that the lasers are gone."
            : "No fixture is of this profile."}
        </Cap>
        <Box sx={{ maxHeight: 220, overflowY: "auto" }}>
          {data?.map((one) => (
            <Box key={one.id} sx={{ display: "grid", gridTemplateColumns: "40px 1fr auto", gap: 1 }}>
              <Num style={{ textAlign: "right", color: ink.soft }}>{one.number}</Num>
              <span>{one.name}</span>
              <Num>{one.address || "no address"}</Num>
            </Box>
          ))}
        </Box>
        {fault && <FaultNote what={fault.what} repair={fault.repair} />}
        <Box sx={{ display: "flex", gap: 1, mt: 2, justifyContent: "flex-end" }}>
          <Button autoFocus onClick={onClose}>
            Leave it guarded
          </Button>
          <Button color="error" disabled={!data} onClick={() => void take()}>
            Take the guard away
          </Button>
        </Box>
      </Box>
    </Dialog>
  );
}
