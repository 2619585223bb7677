import { Box } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { ink, mono } from "../theme/tokens";
import { FaultBubble } from "./later";

interface TypedProps {
  value: string;
  label: string;
  /** Stores what was typed; a string it resolves to is shown as what is wrong. */
  onCommit: (text: string) => unknown;
  width?: number | string;
  numeric?: boolean;
  quiet?: boolean;
  placeholder?: string;
  disabled?: boolean;
  /** The value moves by itself, such as a place in a score that plays: what is typed stands against nobody else's. */
  moves?: boolean;
}

/** Gives the focus back to what the field stands in, a table for one, or else to the page. */
function handBack(field: HTMLInputElement | null): void {
  if (!field || document.activeElement !== field) return;
  const around = field.parentElement?.closest<HTMLElement>("[tabindex]");
  if (around) around.focus({ preventScroll: true });
  else field.blur();
}

/**
 * A value that is edited where it stands. It counts at once on Enter, which gives the focus back, and on leaving the
 * field; Escape takes the typing back. Text that was not accepted stays, with what is wrong beneath.
 */
export function Typed({
  value,
  label,
  onCommit,
  width = "100%",
  numeric,
  quiet,
  placeholder,
  disabled,
  moves,
}: TypedProps) {
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const busy = useRef(false);
  const left = useRef(false);
  /** The value when typing began: if it is another by now, somebody else changed it. */
  const began = useRef(value);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a value from elsewhere ends the typing
  useEffect(() => {
    if (text !== null && document.activeElement !== field.current) setText(null);
  }, [value]);

  /** `leaves`: by Enter, which gives the focus back once the value is taken. */
  const commit = async (leaves = false) => {
    if (busy.current) return;
    if (text === null || text === (moves ? began.current : value)) {
      setText(null);
      setWrong("");
      if (leaves) handBack(field.current);
      return;
    }
    if (!moves && began.current !== value) {
      began.current = value;
      setWrong(`Meanwhile it became '${value}'. Press Enter again to store yours, Esc to keep that.`);
      return;
    }
    busy.current = true;
    try {
      const problem = await onCommit(text);
      if (typeof problem === "string" && problem) setWrong(problem);
      else {
        setWrong("");
        // What was typed while it was stored is typed still.
        setText((now) => (now === text ? null : now));
        // Still busy: leaving the field by this is not another commit of the same text.
        if (leaves) handBack(field.current);
      }
    } finally {
      busy.current = false;
    }
  };

  return (
    <Box sx={{ position: "relative", width, minWidth: 0 }}>
      <Box
        component="input"
        ref={field}
        aria-label={label}
        aria-invalid={wrong !== ""}
        disabled={disabled}
        placeholder={placeholder}
        value={text ?? value}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => {
          if (text === null) began.current = value;
          setText(event.target.value);
        }}
        onFocus={(event: React.FocusEvent<HTMLInputElement>) => {
          if (moves) {
            // It stands while it is typed into: a value that moved on would take the selection away.
            began.current = value;
            setText(value);
          }
          event.target.select();
        }}
        onBlur={() => {
          if (!left.current) void commit();
        }}
        onKeyDown={(event: React.KeyboardEvent<HTMLInputElement>) => {
          if (event.key === "Enter") void commit(true);
          if (event.key === "Escape") {
            setText(null);
            setWrong("");
            left.current = true; // leaving takes nothing that was taken back
            event.currentTarget.blur();
            left.current = false;
          }
        }}
        sx={{
          width: "100%",
          minWidth: 0,
          height: 26,
          px: 0.75,
          font: numeric ? `500 13px ${mono}` : "inherit",
          color: ink.text,
          background: "transparent",
          border: `1px solid ${wrong ? ink.brass : quiet ? "transparent" : ink.hair2}`,
          borderRadius: "4px",
          textOverflow: "ellipsis",
          "&:hover": { borderColor: ink.hair2 },
          "&:focus": { borderColor: ink.brass, outline: "none" },
          "&::placeholder": { color: ink.faint, opacity: 1 },
        }}
      />
      {wrong && <FaultBubble of={field} says={wrong} />}
    </Box>
  );
}
