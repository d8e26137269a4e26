import { race } from "./measure.mjs";
for (const kind of process.argv.slice(2)) { const r = await race(["made","ours","plain"], kind, 200_000); console.log(kind, "made", r.ns("made").toFixed(0), "ours", r.ns("ours").toFixed(0), "plain", r.ns("plain").toFixed(0), "ratio", r.ratio("made","plain").toFixed(2), r.ratio("ours","plain").toFixed(2)); }
