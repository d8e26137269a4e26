import react from "@vitejs/plugin-react";
import { reacher } from "reacher/vite";
import { defineConfig } from "vite";

export default defineConfig({
  base: "./",
  plugins: [react(), reacher()],
  build: {
    target: "es2022",
    chunkSizeWarningLimit: 900,
    rollupOptions: { input: ["index.html", "lab.html"] },
  },
});
