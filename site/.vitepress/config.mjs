/** The documentation as a site. `scripts/site.mjs` lays out its pages; `SITE_BASE` is the folder that it is served from. */
import { defineConfig } from "vitepress";

const page = (text, link) => ({ text, link });

export default defineConfig({
  title: "Reacher",
  description: "The input layer between a player's hands and a game's movement code.",
  lang: "en",
  base: process.env.SITE_BASE ?? "/",
  srcExclude: ["public/**"],
  srcDir: "../node_modules/.cache/reacher-site",
  cacheDir: "../node_modules/.cache/reacher-vitepress",
  outDir: "dist",
  markdown: { theme: { light: "github-light-high-contrast", dark: "github-dark-high-contrast" } },
  themeConfig: {
    search: { provider: "local" },
    outline: [2, 3],
    nav: [
      page("Guide", "/guide"),
      page("Recipes", "/recipes"),
      page("The plan", "/plan"),
      page("Reference", "/api/index"),
    ],
    sidebar: [
      {
        text: "Begin",
        items: [
          page("From nothing to a game", "/guide"),
          page("The workbench", "/workbench"),
          page("All pages", "/pages"),
        ],
      },
      {
        text: "The plan and its readings",
        items: [page("The plan", "/plan"), page("Readings", "/readings"), page("Recipes", "/recipes")],
      },
      {
        text: "How to",
        items: [
          page("A settings screen", "/settings-screen"),
          page("JSON plans", "/how-to/json-plans"),
          page("Reload", "/how-to/reload"),
          page("Build ahead", "/how-to/build-ahead"),
          page("React, Vue, Svelte", "/how-to/react"),
          page("three.js, or any canvas", "/how-to/canvas"),
          page("A worker, a socket", "/how-to/worker"),
          page("Pointer lock", "/how-to/pointer-lock"),
          page("Sound and timers", "/how-to/sound-and-timers"),
          page("Tests of a game", "/how-to/testing"),
          page("Content policies", "/how-to/content-policies"),
          page("Moving from hand-written code", "/how-to/moving"),
          page("Rollback", "/how-to/rollback"),
          page("Servers", "/servers"),
        ],
      },
      {
        text: "Reference",
        items: [
          page("Every exported name", "/api/index"),
          page("Controls", "/controls"),
          page("Findings", "/findings"),
          page("The command", "/command"),
          page("Speed and sizes", "/speed"),
          page("Browsers", "/browsers"),
          page("What it was tried with", "/compatibility"),
        ],
      },
    ],
  },
});
