import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  base: "./",
  plugins: [react()],
  worker: { format: "es" },
  build: {
    target: "es2022",
    outDir: "../reacher-cli/dist/workbench",
    emptyOutDir: true,
    chunkSizeWarningLimit: 2000,
    // The page's policy lets nothing be drawn from text.
    assetsInlineLimit: 0,
    license: { fileName: "LICENSES.md" },
  },
});
