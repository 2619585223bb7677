import type { DialogProps, PopoverProps } from "@mui/material";
import { lazy, Suspense, useRef } from "react";

const getPopover = () => import("@mui/material/Popover");
const getDialog = () => import("@mui/material/Dialog");
const MuiPopover = lazy(getPopover);
const MuiDialog = lazy(getDialog);

/** A panel at its button, fetched when one is opened first. */
export function Popover(props: PopoverProps) {
  const opened = useOpened(props.open);
  return opened ? (
    <Suspense fallback={null}>
      <MuiPopover {...props} />
    </Suspense>
  ) : null;
}

export function Dialog(props: DialogProps) {
  const opened = useOpened(props.open);
  return opened ? (
    <Suspense fallback={null}>
      <MuiDialog {...props} />
    </Suspense>
  ) : null;
}

/** For the time in which the server may be away. */
export const fetchPanels = () => Promise.allSettled([getPopover(), getDialog()]);

function useOpened(open: boolean): boolean {
  const opened = useRef(false);
  opened.current ||= open;
  return opened.current;
}
