import { Box, Button } from "@mui/material";
import type { ReactNode, RefObject } from "react";
import { ink } from "../theme/tokens";
import { KeyCap } from "./atoms";

interface LineProps {
  id: string;
  label: ReactNode;
  /** What stands on its button. */
  does: ReactNode;
  value: string;
  placeholder?: string;
  /** Id of a list of suggestions. */
  list?: string;
  field?: RefObject<HTMLInputElement | null>;
  disabled: boolean;
  onChange: (text: string) => void;
  onSubmit: () => unknown;
  /** Escape and the button beside; without it there is nothing to cancel. */
  onCancel?: () => void;
  /** Between the field and its buttons. */
  children?: ReactNode;
}

/** A line that is typed and done with Enter; what it would do stands beneath it. */
export function TypedLine(props: LineProps) {
  const { id, label, does, value, placeholder, list, field, disabled, onChange, onSubmit, onCancel } = props;
  return (
    <Box
      component="form"
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        void onSubmit();
      }}
      sx={{ display: "flex", gap: 1.5, alignItems: "center" }}
    >
      <Box component="label" htmlFor={id} sx={{ fontWeight: 600, whiteSpace: "nowrap" }}>
        {label}
      </Box>
      <Box
        component="input"
        id={id}
        ref={field}
        list={list}
        autoComplete="off"
        spellCheck={false}
        placeholder={placeholder}
        value={value}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => onChange(event.target.value)}
        onKeyDown={(event: React.KeyboardEvent<HTMLInputElement>) => {
          if (event.key !== "Escape") return;
          onCancel?.();
          event.currentTarget.blur();
        }}
        sx={{
          flex: 1,
          height: 34,
          px: 1.25,
          font: "inherit",
          color: ink.text,
          background: ink.ground,
          border: `1px solid ${value ? ink.brass : ink.hair2}`,
          borderRadius: "4px",
          "&:focus": { borderColor: ink.brass, outline: "none" },
          "&::placeholder": { color: ink.faint, opacity: 1 },
        }}
      />
      {props.children}
      {onCancel && (
        <Button variant="text" onClick={onCancel}>
          Cancel <KeyCap>Esc</KeyCap>
        </Button>
      )}
      <Button type="submit" color="primary" disabled={disabled}>
        {does} <KeyCap>Enter</KeyCap>
      </Button>
    </Box>
  );
}
