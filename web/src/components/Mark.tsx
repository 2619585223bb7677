import { keyframes, styled } from "@mui/material";
import { ink } from "../theme/tokens";

const flash = keyframes({ "0%, 86%, 100%": { opacity: 0.25 }, "90%": { opacity: 1 } });

const Beam = styled("path")({
  animation: `${flash} 6s infinite`,
  "@media (prefers-reduced-motion: reduce)": { animation: "none" },
});

/** The mirror: it flashes now and then, the only ornament. */
export function Mark() {
  return (
    <svg width="22" height="22" viewBox="0 0 24 24" aria-hidden="true">
      <circle cx="12" cy="12" r="8.5" fill="none" stroke="currentColor" strokeWidth="1.4" />
      <path d="M6.5 14.5 17.5 9.5" stroke={ink.brass} strokeWidth="2.2" />
      <Beam d="M17.5 9.5 23 3" stroke={ink.brass} strokeWidth="1.2" />
    </svg>
  );
}
