import { Box } from "@mui/material";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ink, mono } from "../theme/tokens";
import { Cap } from "./atoms";

interface Handle {
  address: string;
  path: string;
  kind: string;
  words: string;
}

/** Handles whose words hold what is typed. */
function useHandles(words: string) {
  return useQuery({
    queryKey: ["handles", words],
    queryFn: async () => {
      const answered = await fetch(`/api/handles?most=40&words=${encodeURIComponent(words)}`);
      if (!answered.ok) return [];
      return ((await answered.json()) as { handles: Handle[] }).handles;
    },
    enabled: words.trim().length > 0,
    staleTime: 2_000,
  });
}

/** Finds anything that can be moved by its words; what is chosen is given on, and the field is free again. */
export function HandleFinder({ onAdd }: { onAdd: (address: string) => Promise<string> }) {
  const [words, setWords] = useState("");
  const found = useHandles(words);
  return (
    <>
      <Box
        component="input"
        aria-label="Find what it moves"
        placeholder="Find: fog level, master, list go ..."
        value={words}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => setWords(event.target.value)}
        sx={{
          width: "100%",
          height: 32,
          mt: 0.75,
          px: 1,
          font: "inherit",
          color: ink.text,
          background: ink.ground,
          border: `1px solid ${words ? ink.brass : ink.hair2}`,
          borderRadius: "4px",
        }}
      />
      {(words ? (found.data ?? []) : []).slice(0, 12).map((one) => (
        <Box
          key={one.address}
          component="button"
          onClick={() => void onAdd(one.address).then((problem) => !problem && setWords(""))}
          sx={{
            display: "grid",
            gridTemplateColumns: "minmax(0,1fr) auto",
            width: "100%",
            textAlign: "left",
            font: "inherit",
            color: ink.text,
            border: 0,
            borderBottom: `1px solid ${ink.hair}`,
            background: "none",
            py: 0.5,
            cursor: "pointer",
            "&:hover": { background: ink.row },
          }}
        >
          <span>{one.words}</span>
          <Cap>{one.kind}</Cap>
          <span style={{ font: `400 11.5px ${mono}`, color: "var(--soft)" }}>{one.path}</span>
        </Box>
      ))}
      {words && found.data?.length === 0 && <Cap sx={{ py: 0.5 }}>Nothing here is called so.</Cap>}
    </>
  );
}
