/** The other process: players' events, as gateways would send them. Each player presses or lets go of a key in a tenth of the ticks. */
import { packEvents } from "reacher/trace";
import WebSocket from "ws";

const [port, players, sockets, tickMs] = process.argv.slice(2).map(Number);
const KEYS = ["KeyW", "KeyA", "KeyS", "KeyD", "ShiftLeft", "Space"];
const each = players / sockets;
/** Bits of the keys that each player holds. */
const held = new Uint8Array(players);
// The same play each time.
let state = 1;
const chance = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;

const lines = await Promise.all(
  Array.from({ length: sockets }, async (_, n) => {
    const socket = new WebSocket(`ws://127.0.0.1:${port}/?first=${n * each}`, { perMessageDeflate: false });
    await new Promise((done, fail) => socket.once("open", done).once("error", fail));
    return socket;
  }),
);
process.send("ready");

const start = performance.now();
let tick = 0;
const timer = setInterval(() => {
  for (; tick * tickMs <= performance.now() - start; tick++) lines.forEach(send);
}, 4);
process.once("disconnect", () => {
  clearInterval(timer);
  process.exit();
});

function send(socket, n) {
  if (socket.readyState !== WebSocket.OPEN) return;
  const records = [];
  for (let own = 0; own < each; own++) {
    if (chance() >= 0.1) continue;
    const player = n * each + own;
    const key = Math.floor(chance() * KEYS.length);
    held[player] ^= 1 << key;
    const value = (held[player] >> key) & 1;
    const bytes = packEvents([{ t: chance() * tickMs, control: KEYS[key], value }], 0, tickMs);
    records.push(Buffer.from([own >> 8, own & 255, bytes.length]), bytes);
  }
  if (records.length > 0) socket.send(Buffer.concat(records));
}
