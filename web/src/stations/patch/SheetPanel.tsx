import { Box, Button } from "@mui/material";
import { useState } from "react";
import { type Fault, isFault, type Schemas } from "../../api/client";
import { download } from "../../api/download";
import { sendForm } from "../../api/sendForm";
import { refreshShow } from "../../api/show";
import { Cap, FaultNote, KeyCap, Num } from "../../components/atoms";
import { FileChooser } from "../../components/FileChooser";
import { notify, say } from "../../stores/notices";
import { ink } from "../../theme/tokens";

type SheetAnswer = Schemas["SheetAnswer"];

/** The patch as a CSV sheet: saved, and loaded after a look at what it would do. */
export function SheetPanel({ onClose }: { onClose: () => void }) {
  const [file, setFile] = useState<File | null>(null);
  const [answer, setAnswer] = useState<SheetAnswer | null>(null);
  const [fault, setFault] = useState<Fault | null>(null);

  const send = async (next: File, onlyLook: boolean) => {
    setFault(null);
    try {
      const told = await sendForm<SheetAnswer>("/api/patch/sheet", {
        file: next,
        only_look: String(onlyLook),
      });
      setAnswer(told);
      setFile(next);
      if (onlyLook) return;
      await refreshShow();
      say(`${told.added} added, ${told.changed} changed`);
      onClose();
    } catch (problem) {
      if (!isFault(problem)) throw problem;
      setFault(problem);
    }
  };
  const moves = (answer?.added ?? 0) + (answer?.changed ?? 0);
  return (
    <Box
      role="group"
      aria-label="Patch sheet"
      onKeyDown={(event: React.KeyboardEvent) => event.key === "Escape" && onClose()}
      sx={{
        borderBottom: `1px solid ${ink.brass}`,
        background: ink.panel,
        px: 2,
        py: 1.5,
        maxHeight: "62%",
        display: "flex",
        flexDirection: "column",
        minHeight: 0,
      }}
    >
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <Button onClick={() => void download("/api/patch/sheet/file", "patch.csv").catch(notify)}>
          Save as CSV
        </Button>
        <FileChooser
          label="Patch sheet file"
          accept=".csv,text/csv"
          onFiles={([chosen]) => chosen && send(chosen, true)}
        >
          Choose a CSV
        </FileChooser>
        <Cap>one row a fixture; known numbers are changed, new ones added, the others stay</Cap>
        <Button variant="text" sx={{ ml: "auto" }} onClick={onClose}>
          Close <KeyCap>Esc</KeyCap>
        </Button>
      </Box>
      {fault && <FaultNote what={fault.what} repair={fault.repair} />}
      {answer && file && answer.faults.length === 0 && (
        <Box sx={{ display: "flex", gap: 2, alignItems: "center", mt: 1.5 }}>
          <span>
            {file.name}: <Num>{answer.added}</Num> added, <Num>{answer.changed}</Num> changed,{" "}
            <Num>{answer.same}</Num> the same
          </span>
          <Button color="primary" disabled={!moves} onClick={() => send(file, false)}>
            Load {moves}
          </Button>
        </Box>
      )}
      {answer && answer.faults.length > 0 && <Faults answer={answer} name={file?.name ?? ""} />}
    </Box>
  );
}

function Faults({ answer, name }: { answer: SheetAnswer; name: string }) {
  return (
    <>
      <Box sx={{ color: ink.brass, mt: 1.5, mb: 0.5 }}>
        {name}: nothing was loaded. {answer.faults.length}{" "}
        {answer.faults.length === 1 ? "thing is" : "things are"} wrong:
      </Box>
      <Box sx={{ overflowY: "auto", minHeight: 0 }}>
        {answer.faults.slice(0, 200).map((one) => (
          <Box
            key={`${one.row} ${one.column} ${one.sentence}`}
            sx={{
              display: "grid",
              gridTemplateColumns: "60px 84px 1fr",
              gap: 1,
              fontSize: 13,
              lineHeight: "22px",
              borderBottom: `1px dashed ${ink.hair}`,
            }}
          >
            <Cap sx={{ lineHeight: "22px" }}>row {one.row}</Cap>
            <Cap sx={{ lineHeight: "22px" }}>{one.column}</Cap>
            <span>{one.sentence}</span>
          </Box>
        ))}
      </Box>
    </>
  );
}
