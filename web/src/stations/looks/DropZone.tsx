import { Box, type BoxProps } from "@mui/material";
import { useState } from "react";
import { ink } from "../../theme/tokens";

/** Takes files that are dropped on it, and shows that it would. */
export function DropZone({ onFiles, ...rest }: BoxProps & { onFiles: (files: File[]) => void }) {
  const [over, setOver] = useState(false);
  return (
    <Box
      {...rest}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes("Files")) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        onFiles([...event.dataTransfer.files]);
      }}
      sx={{
        ...(rest.sx as object),
        outline: over ? `2px dashed ${ink.brass}` : "none",
        outlineOffset: "-4px",
      }}
    />
  );
}
