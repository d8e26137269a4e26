/** `reacher sticks TRACE...`: rest, drift and reach of each stick, with a proposed dead zone. */
import { proposeZone, StickMeter, type Place, type StickMeasure } from "reacher/tuning";
import { count, paint, print, printJson } from "../output.js";
import { readTraceFile } from "../traceFile.js";

export async function sticks(files: readonly string[], { json }: { json?: boolean }): Promise<number> {
  const meter = new StickMeter();
  for (const file of files) {
    await readTraceFile(file, (entry) => meter.push(entry));
    meter.endTrace();
  }
  const measures = meter.measures();
  if (json === true) {
    for (const { cloud: _, ...measure } of measures)
      printJson({ ...measure, proposed: proposeZone({ ...measure, cloud: _ }) });
    return 0;
  }
  if (measures.length === 0) print("no stick was moved");
  measures.forEach((measure, n) => {
    if (n > 0) print();
    printStick(measure);
  });
  return 0;
}

function printStick(measure: StickMeasure): void {
  const { stick, pad, ms, restMs, samples, rest, reach, roundness } = measure;
  print(
    `${paint.title(stick)} of pad ${pad}  ${paint.dim(`${seconds(ms)} seen, ${seconds(restMs)} of it at rest, ${count(samples, "value")}`)}`,
  );
  print();
  for (const line of picture(measure)) print(`  ${line}`);
  print();
  const row = (name: string, text: string) => print(`  ${paint.dim(name.padEnd(6))} ${text}`);
  if (rest === undefined) row("rest", "never seen: it was not still near the centre for 0.4 s");
  else {
    row("rest", `${place(rest.mean)} in the mean, within ${two(rest.within)} of the centre`);
    row("noise", `up to ${three(rest.noise)} from where it rests`);
    row(
      "drift",
      rest.drift === undefined
        ? "none to be told from the noise"
        : paint.warning(
            `${three(rest.drift.perMinute)} a minute ${wayOf(rest.drift)}: from ${place(rest.first)} to ${place(rest.last)}`,
          ),
    );
  }
  const ways = [9, 0, 27, 18].map((way, n) => {
    const name = ["up", "right", "down", "left"][n]!;
    return `${name} ${reach[way] === 0 ? "-" : two(reach[way]!)}`;
  });
  const seen = reach.filter((length) => length > 0).length;
  const round =
    roundness === undefined
      ? `${seen} of ${reach.length} directions seen, too few for its shape`
      : `shortest to longest ${two(roundness)}${longest(reach) > 1.1 ? ", square rather than round" : ""}`;
  row("reach", `${ways.join("  ")}  (${round})`);
  const zone = proposeZone(measure);
  row("inner", `${paint.title(two(zone.inner))}  ${zone.innerReason}`);
  row("outer", `${paint.title(two(zone.outer))}  ${zone.outerReason}`);
}

const SHADES = " ·░▒▓█";
/** Two columns to a row make a square of most terminals' letters. */
const ROWS = 21;

/** Where the stick was, as a map: the denser, the longer; with the rim and the axes drawn in. */
function picture({ cloud }: StickMeasure): string[] {
  const side = Math.sqrt(cloud.length);
  const cells = new Float64Array(ROWS * side);
  cloud.forEach((ms, at) => {
    const row = Math.round((Math.floor(at / side) / (side - 1)) * (ROWS - 1));
    cells[row * side + (at % side)]! += ms;
  });
  const most = Math.max(...cells);
  return Array.from({ length: ROWS }, (_, row) => {
    let line = "";
    for (let column = 0; column < side; column++) {
      const ms = cells[row * side + column]!;
      const x = (column / (side - 1)) * 2 - 1;
      const y = 1 - (row / (ROWS - 1)) * 2;
      // The longest time is at rest, by far: shades go by its logarithm.
      if (ms > 0)
        line += paint.on(SHADES[1 + Math.min(4, Math.floor((Math.log1p(ms) / Math.log1p(most)) * 5))]!);
      else if (Math.abs(Math.sqrt(x * x + y * y) - 1) < 0.045) line += paint.dim("o");
      else if (column === (side - 1) / 2 && row === (ROWS - 1) / 2) line += paint.dim("+");
      else line += " ";
    }
    return line.trimEnd();
  });
}

function longest(reach: readonly number[]): number {
  return Math.max(...reach);
}

function wayOf({ x, y }: Place): string {
  const names = [
    "to the right",
    "up and right",
    "up",
    "up and left",
    "to the left",
    "down and left",
    "down",
    "down and right",
  ];
  return names[(Math.round(Math.atan2(y, x) / (Math.PI / 4)) + 8) % 8]!;
}

function place({ x, y }: Place): string {
  const signed = (value: number) => (value < 0 ? "" : "+") + three(value);
  return `(${signed(x)}, ${signed(y)})`;
}

function two(value: number): string {
  return value.toFixed(2);
}

function three(value: number): string {
  return (Math.round(value * 1000) / 1000 + 0).toFixed(3);
}

function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}
