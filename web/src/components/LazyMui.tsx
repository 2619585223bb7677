import type { DialogProps, PopoverProps } from "@mui/material";
import { useRef } from "react";
import { fetched } from "./fetched";

const MuiPopover = fetched<PopoverProps>(async () => (await import("@mui/material/Popover")).default);
const MuiDialog = fetched<DialogProps>(async () => (await import("@mui/material/Dialog")).default);

/** A panel at its button, fetched when one is opened first. */
export function Popover(props: PopoverProps) {
  return useOpened(props.open) ? <MuiPopover {...props} /> : null;
}

export function Dialog(props: DialogProps) {
  return useOpened(props.open) ? <MuiDialog {...props} /> : null;
}

/** For the time in which the server may be away. */
export function fetchPanels(): void {
  void MuiPopover.fetch();
  void MuiDialog.fetch();
}

function useOpened(open: boolean): boolean {
  const opened = useRef(false);
  opened.current ||= open;
  return opened.current;
}
