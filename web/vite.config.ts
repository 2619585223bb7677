import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// In development the API of a running Heliograph is used: HELIOGRAPH=http://127.0.0.1:7650 npx vite
const target = process.env.HELIOGRAPH ?? "http://127.0.0.1:7650";

export default defineConfig({
  plugins: [react()],
  build: { chunkSizeWarningLimit: 1500 },
  server: { proxy: { "/api": { target, ws: true } } },
});
