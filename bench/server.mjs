/**
 * `npm run bench:server`: a crowd of 10,000 players in one process, stepped 60 times a second by events that come over WebSockets on the loopback from a
 * second process. Prints what a tick costs. It ends by itself.
 */
import { fork } from "node:child_process";
import { monitorEventLoopDelay } from "node:perf_hooks";
import { fileURLToPath } from "node:url";
import { createCrowd } from "reacher/crowd";
import { unpackEvents } from "reacher/trace";
import { WebSocketServer } from "ws";
import { plan } from "./game.mjs";

const PLAYERS = Number(process.argv[2] ?? 10_000);
const SOCKETS = 100;
const TICK_MS = 1000 / 60;
/** So many ticks are let pass before anything is counted, and so many are counted. */
const WARM = 120;
const COUNTED = 600;

const rss = process.memoryUsage().rss;
const crowd = createCrowd(plan, PLAYERS);
const { players } = crowd;
const start = performance.now();
crowd.step(0);
const perPlayer = (process.memoryUsage().rss - rss) / PLAYERS;

const server = new WebSocketServer({ host: "127.0.0.1", port: 0, perMessageDeflate: false });
let tick = 0;
/** What this tick has taken so far, in ms, and how many events came. */
const sums = { feed: 0, step: 0, read: 0, events: 0, messages: 0, bytes: 0 };
const steps = [];
const late = [];

server.on("connection", (socket, request) => {
  const first = Number(new URL(request.url, "http://localhost").searchParams.get("first"));
  socket.on("message", (data) => {
    const begun = performance.now();
    try {
      feed(first, data);
    } catch (error) {
      // Bytes that nobody packed: whoever sends such is not heard again.
      socket.close(1008, error.message.slice(0, 100));
    }
    sums.feed += performance.now() - begun;
    sums.messages++;
    sums.bytes += data.length;
  });
});

/** Records of one tick of one gateway: whose (two bytes), how many bytes, and these. */
function feed(first, data) {
  const from = tick * TICK_MS;
  for (let at = 0; at + 3 <= data.length;) {
    const player = players[first + data.readUInt16BE(at)];
    const length = data[at + 2];
    if (player === undefined || at + 3 + length > data.length)
      throw new Error("no such player, or cut short");
    for (const event of unpackEvents(data.subarray(at + 3, at + 3 + length), from)) {
      if ("lost" in event) player.lose("focus", event.t);
      else player.feed(event);
      sums.events++;
    }
    at += 3 + length;
  }
}

/** One tick of all, and how many of them swim by then; what a world does with the readings comes on top. */
function step() {
  tick++;
  const begun = performance.now();
  late.push(begun - start - tick * TICK_MS);
  crowd.step(tick * TICK_MS);
  const took = performance.now() - begun;
  sums.step += took;
  steps.push(took);
  let swimming = 0;
  for (let n = 0; n < players.length; n++) if (players[n].now.swim.length > 0) swimming++;
  sums.read += performance.now() - begun - took;
  return swimming;
}

const at = (list, share) => list.sort((one, other) => one - other)[Math.floor((list.length - 1) * share)];
const row = (what, value) => console.log(`${what.padEnd(46)} ${value}`);

await new Promise((done) => server.once("listening", done));
const hands = fork(fileURLToPath(new URL("players.mjs", import.meta.url)), [
  String(server.address().port),
  String(PLAYERS),
  String(SOCKETS),
  String(TICK_MS),
]);
await new Promise((done) => hands.once("message", done));
tick = Math.floor((performance.now() - start) / TICK_MS);
const loop = monitorEventLoopDelay({ resolution: 5 });
let ticks = 0;
let swimming = 0;
let cpu;
(function next() {
  while (performance.now() - start >= (tick + 1) * TICK_MS) {
    swimming = step();
    if (++ticks === WARM) {
      for (const name of Object.keys(sums)) sums[name] = 0;
      steps.length = late.length = 0;
      cpu = process.cpuUsage();
      loop.enable();
    }
  }
  if (ticks < WARM + COUNTED) setTimeout(next, 1);
  else end();
})();

function end() {
  const { user, system } = process.cpuUsage(cpu);
  const each = (name) => sums[name] / COUNTED;
  hands.kill();
  for (const socket of server.clients) socket.terminate();
  server.close();
  row("players, sockets, ticks counted", `${PLAYERS}, ${SOCKETS}, ${COUNTED}`);
  row(
    "events a tick, of which bytes on the line",
    `${each("events").toFixed(0)}, ${each("bytes").toFixed(0)}`,
  );
  row("unpacking and feeding, a tick", `${each("feed").toFixed(2)} ms`);
  row(
    "stepping all, a tick: mean, 99 of 100, most",
    `${each("step").toFixed(2)}, ${at(steps, 0.99).toFixed(2)}, ${at(steps, 1).toFixed(2)} ms`,
  );
  row("looking who swims, a tick", `${each("read").toFixed(2)} ms`);
  row("the process's own time, of one core", `${((user + system) / 10 / (COUNTED * TICK_MS)).toFixed(0)} %`);
  row(
    "a tick begins late by: half, 99 of 100",
    `${at(late, 0.5).toFixed(1)}, ${at(late, 0.99).toFixed(1)} ms`,
  );
  row("memory, a player", `${(perPlayer / 1024).toFixed(1)} kB`);
  row("of them swim at the end", `${swimming}`);
  loop.disable();
}
