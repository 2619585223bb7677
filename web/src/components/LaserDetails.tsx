import { Box, Button } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { Link } from "wouter";
import { answer, client, type Fault, type Schemas } from "../api/client";
import { ink } from "../theme/tokens";
import { Cap, FaultNote, Num } from "./atoms";
import { Typed } from "./Typed";

export interface DetailsProps {
  arming: boolean;
  /** A time of day ("23:40") until which they stay armed without this page; "" as long as it is there. */
  until: string;
  onUntil: (until: string) => void;
  onClose: () => void;
  /** What it shows has come, or became more: it may need another place. */
  onFilled: () => void;
}

const TIME = /^([01]?\d|2[0-3]):[0-5]\d$/;

/** What would be armed, what cannot be and why, and what to know before. */
export function LaserDetails({ arming, until, onUntil, onClose, onFilled }: DetailsProps) {
  const { data } = useQuery<Schemas["LasersView"], Fault>({
    queryKey: ["lasers"],
    queryFn: async () => (await answer(client.GET("/api/lasers"))) as Schemas["LasersView"],
    refetchInterval: 2000,
    staleTime: 0,
  });
  useEffect(() => {
    if (data) onFilled();
  }, [data, onFilled]);
  const lasers = data?.lasers ?? [];
  const ready = lasers.filter((one) => !one.fault).length;
  const warnings = [...new Set(lasers.flatMap((one) => one.warnings))];
  return (
    <Box sx={{ p: 1.5 }} role="group" aria-label="Lasers">
      <Box sx={{ display: "flex", alignItems: "center", mb: 0.5 }}>
        <b style={{ fontWeight: 600, color: arming ? ink.coral : undefined }}>
          {arming ? `Arming ${ready}` : "Lasers"}
        </b>
        <Button variant="text" sx={{ ml: "auto" }} onClick={onClose}>
          Close
        </Button>
      </Box>
      {data && !lasers.length && (
        <Cap>No laser in this show; one would be held at its safe values until it is armed here.</Cap>
      )}
      <Box sx={{ maxHeight: 180, overflowY: "auto" }}>
        {lasers.map((one) => (
          <Box
            key={one.id}
            sx={{
              display: "grid",
              gridTemplateColumns: "34px 1fr 44px",
              gap: 1,
              fontSize: 13,
              minHeight: 24,
            }}
          >
            <Num style={{ textAlign: "right", color: ink.soft }}>{one.number}</Num>
            <span>
              {one.name}
              {one.fault && <Cap style={{ color: ink.brass }}>{one.fault}</Cap>}
            </span>
            <span style={{ color: one.armed ? ink.coral : ink.sea }}>{one.armed ? "armed" : "safe"}</span>
          </Box>
        ))}
      </Box>
      {warnings.map((one) => (
        <FaultNote key={one} what={one} />
      ))}
      {(data?.left.length ?? 0) > 0 && (
        <Cap sx={{ mt: 0.5 }}>
          <Link to="/check" style={{ color: ink.brass }}>
            {data?.left.length === 1 ? "An address that a laser left is" : "Addresses that lasers left are"}{" "}
            held safe: see Check.
          </Link>
        </Cap>
      )}
      {ready > 0 && (
        <>
          <Box sx={{ display: "flex", alignItems: "center", gap: 1, mt: 1, fontSize: 13 }}>
            stay armed until
            <Typed
              numeric
              width={150}
              label="Stay armed until"
              value={until}
              placeholder="this page is gone"
              onCommit={(text) => {
                const time = text.trim();
                if (time && !TIME.test(time))
                  return "Type a time of day like 23:40, or nothing: then they are safe when this page is gone.";
                onUntil(time);
              }}
            />
          </Box>
          <Cap sx={{ mt: 0.5 }}>
            Hold the sign for 1.5 s to arm. One press, or key L, makes all safe. This program is no safety
            device: have a person with an emergency stop.
          </Cap>
        </>
      )}
    </Box>
  );
}
