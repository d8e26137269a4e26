/** Measures alternately, so that whatever slows the machine slows everything that is compared. Times are process times. */
import { spawn } from "node:child_process";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";

const ROUNDS = 21;

/** Time that this process has had, in ms. */
function processTime() {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
}

/** The same heap for all, from the beginning: its first size alone moves the ratios by half. */
const HEAP = "--min-semi-space-size=16";

/** Nanoseconds per turn of these contenders, each in a process of its own, by turns; and the median of their ratios. */
export async function race(names, kind, turns) {
  const runners = names.map((name) => {
    const file = fileURLToPath(new URL("contender.mjs", import.meta.url));
    const child = spawn(process.execPath, [HEAP, file, name, kind], { stdio: ["pipe", "pipe", "inherit"] });
    const lines = createInterface({ input: child.stdout })[Symbol.asyncIterator]();
    const ask = async () => {
      child.stdin.write(`${turns}\n`);
      return Number((await lines.next()).value);
    };
    return { name, child, ask };
  });
  const times = Object.fromEntries(names.map((name) => [name, []]));
  for (let round = 0; round < ROUNDS; round++)
    for (const { name, ask } of runners) times[name].push(await ask());
  for (const { child } of runners) child.stdin.end();
  return outcome(times);
}

function outcome(times) {
  return {
    ns: (name) => median(times[name]),
    ratio: (one, other) => median(times[one].map((time, round) => time / times[other][round])),
  };
}

/** Nanoseconds per turn of each of these, and the median of their ratios to each other one by name. */
export function compare(runs, turns) {
  const names = Object.keys(runs);
  for (const name of names) for (let n = 0; n < 3; n++) runs[name](Math.min(turns, 100_000));
  const times = Object.fromEntries(names.map((name) => [name, []]));
  for (let round = 0; round < ROUNDS; round++) {
    for (const name of names) {
      const begin = processTime();
      runs[name](turns);
      times[name].push(((processTime() - begin) * 1e6) / turns);
    }
  }
  return outcome(times);
}

/**
 * A time that stands for itself, in ms for each of `turns`: the least of medians that are taken at moments far apart. Whatever
 * else the machine does only ever makes it longer, and does so for seconds at a time.
 */
export class Least {
  least = Infinity;

  constructor(run, turns, times) {
    this.run = run;
    this.turns = turns;
    this.times = times;
    run();
  }

  /** One more median, of as many runs as it was told. */
  measure() {
    const found = [];
    for (let n = 0; n < this.times; n++) {
      const begin = performance.now();
      this.run();
      found.push((performance.now() - begin) / this.turns);
    }
    this.least = Math.min(this.least, median(found));
  }

  static ms({ least }, digits) {
    return least.toFixed(digits);
  }
}

export function median(numbers) {
  return [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)];
}

/** Bytes that each turn leaves on the heap; needs `node --expose-gc`. */
export function allocated(run, turns) {
  // Long enough for the compiler to be done with it, a piece at a time as a game does.
  for (let n = 0; n < 300; n++) run(1000);
  globalThis.gc();
  // The first turns after a collection pay for pages that the collector gave back.
  run(turns);
  const found = [];
  for (let n = 0; n < 5; n++) {
    const before = process.memoryUsage().heapUsed;
    run(turns);
    found.push((process.memoryUsage().heapUsed - before) / turns);
  }
  // What a turn allocates shows each time; what the machine does beside it, now and then.
  return Math.max(0, Math.min(...found));
}
