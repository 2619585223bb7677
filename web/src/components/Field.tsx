import { Box } from "@mui/material";
import { ink, mono } from "../theme/tokens";

interface FieldProps {
  value: string;
  onChange: (text: string) => void;
  width: number | string;
  placeholder?: string;
  /** Its name, where no label element names it by `id`. */
  label?: string;
  id?: string;
  onKeyDown?: (event: React.KeyboardEvent) => void;
  onBlur?: () => void;
}

/** A field whose text counts while it is typed, such as the question of a plan that is shown beside it. */
export function Field({ value, onChange, width, placeholder, label, id, onKeyDown, onBlur }: FieldProps) {
  return (
    <Box
      component="input"
      id={id}
      aria-label={label}
      value={value}
      placeholder={placeholder}
      autoComplete="off"
      onKeyDown={(event: React.KeyboardEvent<HTMLInputElement>) => {
        onKeyDown?.(event);
        if (event.key === "Escape") event.currentTarget.blur();
      }}
      onBlur={onBlur}
      onChange={(event: React.ChangeEvent<HTMLInputElement>) => onChange(event.target.value)}
      sx={{
        width,
        height: 28,
        px: 0.75,
        font: `500 13px ${mono}`,
        color: ink.text,
        background: "transparent",
        border: `1px solid ${ink.hair2}`,
        borderRadius: "4px",
        "&::placeholder": { color: ink.faint, opacity: 1 },
        "&:focus": { borderColor: ink.brass, outline: "none" },
      }}
    />
  );
}
