/** Makes the recording beside the rough plan: hands that tap slower than its window, and a stick that does not come home. */
import { writeFileSync } from "node:fs";

const lines = [];
const add = (t, control, value, pad) =>
  lines.push({ t: Math.round(t * 10) / 10, control, value, ...(pad === undefined ? {} : { pad }) });
const press = (t, ms) => {
  add(t, "KeyD", 1);
  add(t + ms, "KeyD", 0);
};
let t = 600;
// Meant as a double tap: press to press.
for (const gap of [185, 241, 168, 212, 196, 228, 174, 205, 133, 219, 190, 236]) {
  press(t, 62 + (gap % 23));
  press(t + gap, 240 + (gap % 90));
  t += 1150 + (gap % 70);
}
// Plain walking: let go and pressed again.
for (const gap of [330, 390, 356, 420]) {
  press(t, gap - 60);
  press(t + gap, 300);
  t += 1300;
}
// The stick: tilted twice, and each time it comes to rest a little right of the middle.
for (let n = 0; n < 2; n++) {
  for (const value of [0.3, 0.7, 0.98, 0.98, 0.6, 0.2]) add((t += 60), "PadLeftStickX", value, 0);
  for (let rest = 0; rest < 24; rest++)
    add((t += 90), "PadLeftStickX", 0.062 + 0.012 * Math.sin(rest * 1.7 + n), 0);
}
lines.sort((one, other) => one.t - other.t);
const head = {
  reacherTrace: 1,
  plan: "tide-pool",
  note: "Taps slower than the window, and a stick that does not come home",
};
const text = [
  head,
  ...lines.map((line) => ("pad" in line ? { ...line, value: Math.round(line.value * 1000) / 1000 } : line)),
  { t: t + 400, end: true },
];
writeFileSync(
  new URL("rough.trace.jsonl", import.meta.url),
  text.map((line) => JSON.stringify(line)).join("\n") + "\n",
);
