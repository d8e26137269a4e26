import { createInputLayer } from "reacher";
import { compare, allocated } from "./bench/measure.mjs";
import { layerRuns, handRuns, plan } from "./bench/runs.mjs";
import { HandWritten } from "./bench/handWritten.mjs";
const old = await import("/tmp/diff/old.mjs");
const full = JSON.parse((await import("node:fs")).readFileSync("examples/kelpline/plan/kelpline.plan.json","utf8"));
const nw = layerRuns(createInputLayer(plan)), od = layerRuns(old.createInputLayer(plan)), hand = handRuns(new HandWritten());
for (const k of ["idle","key","stick"]) { const r = compare({ nw: nw[k], od: od[k], hand: hand[k] }, 100_000); console.log(k, "new", r.nw.ns.toFixed(0), "old", r.od.ns.toFixed(0), "hand", r.hand.ns.toFixed(0), "new/old", (r.nw.ns/r.od.ns).toFixed(2)); }
const nf = layerRuns(createInputLayer(full)), of = layerRuns(old.createInputLayer(full));
for (const k of ["key","stick"]) { const r = compare({ nf: nf[k], of: of[k] }, 100_000); console.log("full", k, "new", r.nf.ns.toFixed(0), "old", r.of.ns.toFixed(0), (r.nf.ns/r.of.ns).toFixed(2)); }
console.log("bytes", ["idle","key","stick"].map((k) => allocated(nw[k], 300_000).toFixed(3)));
