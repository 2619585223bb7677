import { Button } from "@mui/material";
import { type ReactNode, useRef } from "react";

interface FileChooserProps {
  /** Name of the hidden field, for readers and tests. */
  label: string;
  /** Kinds of files, as an input's `accept`. */
  accept: string;
  onFiles: (files: File[]) => unknown;
  multiple?: boolean;
  /** A whole folder is chosen instead of files. */
  folder?: boolean;
  disabled?: boolean;
  children: ReactNode;
}

/** A button that opens the system's file chooser. The same file may be chosen twice in a row. */
export function FileChooser({
  label,
  accept,
  onFiles,
  multiple,
  folder,
  disabled,
  children,
}: FileChooserProps) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => field.current?.click()} disabled={disabled}>
        {children}
      </Button>
      <input
        ref={field}
        type="file"
        accept={accept}
        multiple={multiple}
        {...(folder ? { webkitdirectory: "" } : {})}
        aria-label={label}
        hidden
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          if (files.length) void onFiles(files);
        }}
      />
    </>
  );
}
