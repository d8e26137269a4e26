import { parseTrace, replay, startReplay } from "reacher/trace"; import { readFileSync } from "node:fs"; import { longTrace } from "./bench/runs.mjs";
const plan = JSON.parse(readFileSync("examples/kelpline/plan/kelpline.plan.json","utf8"));
const { head, objects, lines } = longTrace(readFileSync("examples/kelpline/dives/pad-drift.trace.jsonl","utf8"), 200_000);
const t = (n, fn) => { let best = 1e9; for (let k = 0; k < 5; k++) { const b = performance.now(); fn(); best = Math.min(best, performance.now() - b); } console.log(n, (objects.length / best / 1000).toFixed(2), "M/s"); };
console.log(objects.length, objects.at(-1).t);
t("objects with rows", () => replay(plan, objects));
t("objects none", () => { const r = startReplay(plan, {}, () => {}); for (const o of objects) r.push(o); r.finish(); });
t("parse", () => parseTrace(head + lines).entries.length);
t("lines", () => replay(plan, parseTrace(head + lines).entries));
