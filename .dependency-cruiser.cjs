/** Imports run one way: controls <- plan <- engine <- layer <- trace <- tuning, with devices and testing beside them. */
const src = "^packages/reacher/src/";
const from = (room) => ({ path: `${src}${room}/` });
const only = (name, room, rooms) => ({
  name,
  severity: "error",
  from: from(room),
  to: { path: src, pathNot: `${src}(${[room, ...rooms].join("|")})/` },
});

/** A room of the engine imports none of these. */
const above = (room, rooms) => ({
  name: `engine-${room}-imports-no-higher-room`,
  severity: "error",
  from: from(`engine/${room}`),
  to: { path: `${src}engine/(${rooms.join("|")})/` },
});

module.exports = {
  forbidden: [
    only("controls-import-nothing", "controls", []),
    only("plan-imports-controls", "plan", ["controls"]),
    only("engine-imports-plan-and-controls", "engine", ["controls", "plan"]),
    only("layer-imports-the-engine", "layer", ["controls", "plan", "engine"]),
    only("trace-imports-the-core", "trace", ["controls", "plan", "engine", "layer"]),
    only("tuning-imports-the-core-and-trace", "tuning", ["controls", "plan", "engine", "layer", "trace"]),
    only("rebind-imports-the-core", "rebind", ["controls", "plan", "engine", "layer"]),
    only("devices-import-the-core", "devices", ["controls", "plan", "engine", "layer"]),
    only("touch-imports-the-core-and-devices", "touch", ["controls", "plan", "engine", "layer", "devices"]),
    only("stores-are-ports-of-rebind", "stores", ["rebind", "plan"]),
    only("testing-imports-the-core", "testing", ["controls", "plan", "engine", "layer"]),
    only("panel-imports-the-core-and-trace", "panel", ["controls", "plan", "engine", "layer", "trace"]),
    only("made-runs-in-the-engine", "made", ["controls", "plan", "engine"]),
    only("lean-imports-the-core-and-made", "lean", ["controls", "plan", "engine", "layer", "made"]),
    only("built-imports-the-core-and-made", "built", ["controls", "plan", "engine", "layer", "made", "lean"]),
    only("make-imports-the-core-and-built", "make", ["controls", "plan", "engine", "made", "built"]),
    only("vite-imports-plan-built-and-make", "vite", ["controls", "plan", "built", "make"]),
    // Within the engine: situations <- switches <- gestures, situations <- movement <- turns; what joins them lies above.
    above("situations", ["switches", "gestures", "movement", "turns"]),
    above("switches", ["gestures", "movement", "turns"]),
    above("gestures", ["movement", "turns"]),
    above("movement", ["switches", "gestures", "turns"]),
    above("turns", ["switches", "gestures"]),
    {
      name: "core-has-one-dependency",
      severity: "error",
      // Stores, the maker of code and the plugin for Vite run in tools, or bring what they need; React and Lit are the game's own.
      from: { path: src, pathNot: `${src}(stores|make|vite|react|settings)/` },
      to: { dependencyTypes: ["npm", "npm-dev", "core"], pathNot: "node_modules/valibot/" },
    },
    {
      name: "schema-library-stays-in-plan",
      severity: "error",
      from: { path: src, pathNot: `${src}plan/` },
      to: { path: "node_modules/valibot/" },
    },
    {
      name: "command-uses-public-entries",
      severity: "error",
      from: { path: "^packages/reacher-cli/src/" },
      to: { path: src },
    },
    {
      name: "no-circles",
      severity: "error",
      from: { path: "^(packages|examples)/" },
      to: { circular: true },
    },
    { name: "nothing-unresolved", severity: "error", from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "default"] },
    doNotFollow: { path: "node_modules" },
  },
};
