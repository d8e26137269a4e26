import { reacher } from "reacher/vite";
import { defineConfig } from "vite";

export default defineConfig({ base: "./", plugins: [reacher()], build: { target: "es2022" } });
