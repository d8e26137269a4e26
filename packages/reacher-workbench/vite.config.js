import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { licenses } from "../../scripts/licenses.mjs";

/** What is bundled ships with its licences. */
const shipLicenses = {
  name: "licenses",
  generateBundle(_options, bundle) {
    const modules = Object.values(bundle).flatMap(({ moduleIds = [] }) => moduleIds);
    this.emitFile({ type: "asset", fileName: "LICENSES.md", source: licenses(modules) });
  },
};

export default defineConfig({
  base: "./",
  plugins: [react(), shipLicenses],
  worker: { format: "es" },
  build: {
    target: "es2022",
    outDir: "../reacher-cli/dist/workbench",
    emptyOutDir: true,
    chunkSizeWarningLimit: 2000,
    // The page's policy lets nothing be drawn from text.
    assetsInlineLimit: 0,
  },
});
