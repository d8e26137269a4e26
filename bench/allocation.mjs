/** Bytes that a step of our layer allocates, of whichever kind allocates most. In a process of its own: other plans' layers would change what the compiler makes of it. */
import { createInputLayer } from "reacher";
import { plan } from "./game.mjs";
import { allocated } from "./measure.mjs";
import { layerRuns } from "./runs.mjs";

const runs = layerRuns(createInputLayer(plan));
console.log(Math.max(...["idle", "key", "stick"].map((kind) => allocated(runs[kind], 300_000))));
