import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// In development the API of a running Heliograph is used: HELIOGRAPH=http://127.0.0.1:7650 npx vite
const target = process.env.HELIOGRAPH ?? "http://127.0.0.1:7650";

/** What every station shares; many small files cost more than they hold. */
const BASE =
  /src[\\/](theme|stores|api|canvas[\\/](eachFrame|drawPicture)|components[\\/](atoms|fetched|Typed|pictureStyle|later))|node_modules[\\/](@emotion|stylis|clsx|react-is|@mui[\\/](system|utils|styled-engine|material[\\/](styles|utils|Button|ButtonBase|Box|CircularProgress)[\\/]))/;

export default defineConfig({
  plugins: [react()],
  build: {
    chunkSizeWarningLimit: 1500,
    rolldownOptions: {
      output: {
        // What every station shares comes in one file: many small ones cost more than they hold.
        codeSplitting: { groups: [{ name: "base", test: BASE }] },
      },
    },
  },
  server: { proxy: { "/api": { target, ws: true } } },
});
