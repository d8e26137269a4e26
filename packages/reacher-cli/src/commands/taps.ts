/** `reacher taps TRACE...`: press-to-press times, and what each window for a double tap would catch. */
import { findControl } from "reacher";
import { didYouMeanControl } from "reacher/check";
import {
  allTimes,
  proposeTapWindow,
  TapCounter,
  tapWindows,
  type TapProposal,
  type TapTimes,
} from "reacher/tuning";
import { UseError } from "../faults.js";
import { count, padEnd, padStart, paint, print, printJson, widest } from "../output.js";
import { readTraceFile } from "../traceFile.js";

export interface TapsOptions {
  readonly json?: boolean;
  readonly control?: string;
}

/** Each bar stands for the pairs of so many ms. */
const BIN_MS = 20;
const FIRST_BIN = 60;
const WIDEST = 400;
const BAR_WIDTH = 44;
const LEVELS = " ▁▂▃▄▅▆▇█";

export async function taps(files: readonly string[], { json, control }: TapsOptions): Promise<number> {
  if (control !== undefined) mustBePressable(control);
  const counter = new TapCounter(control);
  for (const file of files) {
    await readTraceFile(file, (entry) => counter.push(entry));
    counter.endTrace();
  }
  const times = counter.times();
  const all = allTimes(times);
  const proposal = proposeTapWindow(all);
  if (json === true) printRows(times, all, proposal);
  else if (times.length === 0) {
    print(control === undefined ? "no control was pressed" : `${control} was not pressed`);
  } else {
    printControls(times);
    print();
    printWindows(times, all, proposal);
  }
  return 0;
}

function mustBePressable(name: string): void {
  const control = findControl(name);
  if (control === undefined)
    throw new UseError(`--control ${name}: there is no such control${didYouMeanControl(name)}`);
  if (["key", "button", "trigger", "half"].includes(control.family)) return;
  throw new UseError(
    `--control ${name}: it is not pressed as one; take a key, a button or one side: PadLeftStickRight`,
  );
}

/** One line a control: its quick pairs as a row of small bars, and below them those that were not meant. */
function printControls(times: readonly TapTimes[]): void {
  const width = Math.max(8, widest(times.map(({ control }) => control)));
  const longest = times[0]?.quick.limit ?? 0;
  const axis = Array.from({ length: longest / 100 }, (_, n) => String(n * 100).padEnd(100 / BIN_MS)).join("");
  print(paint.dim(`${"control".padEnd(width)}  presses  quick  plain  median  ${axis}${longest} ms apart`));
  for (const { control, presses, quick, plain } of times) {
    const median = quick.total === 0 ? "-" : `${quick.quantile(0.5)} ms`;
    const numbers = [presses, quick.total, plain.total].map((n, i) => String(n).padStart([7, 5, 5][i]!));
    print(
      `${padEnd(control, width, paint.control)}  ${numbers.join("  ")}  ${median.padStart(6)}  ${small(quick)}`,
    );
  }
}

function small(histogram: TapTimes["quick"]): string {
  const bins = Array.from({ length: histogram.limit / BIN_MS }, (_, n) =>
    histogram.between(n * BIN_MS, (n + 1) * BIN_MS),
  );
  const most = Math.max(...bins);
  return bins.map((bin) => (bin === 0 ? paint.dim("·") : LEVELS[Math.ceil((8 * bin) / most)]!)).join("");
}

/** One line for every 20 ms: how many pairs were so far apart, and what a window up to there would catch. */
function printWindows(times: readonly TapTimes[], all: TapTimes, { gapMs, reason }: TapProposal): void {
  const { quick, plain } = all;
  const windows = tapWindows(all);
  const bins = [];
  for (let from = FIRST_BIN; from < quick.limit; from += BIN_MS) {
    const below = from === FIRST_BIN ? -1 : from;
    const to = from + BIN_MS;
    bins.push({ to, quick: quick.between(below, to), plain: plain.between(below, to) });
  }
  const most = Math.max(1, ...bins.map((bin) => bin.quick + bin.plain));
  const scale = Math.min(1, BAR_WIDTH / most);
  const shown = "█ quick pair  ░ plain movement";
  print(
    paint.dim(
      `${"up to".padStart(9)}  ${shown.padEnd(BAR_WIDTH + 8)} ${"a window this long catches".padStart(8)}`,
    ),
  );
  const filled = bins.map((bin) => bin.quick + bin.plain > 0);
  const end =
    Math.max(
      filled.lastIndexOf(true),
      bins.findIndex(({ to }) => to === WIDEST),
    ) + 1;
  for (const bin of bins.slice(Math.max(filled.indexOf(true), 0), end)) {
    const bar = "█".repeat(Math.ceil(bin.quick * scale));
    const rest = "░".repeat(Math.ceil(bin.plain * scale));
    const number =
      bin.quick + bin.plain === 0 ? "" : ` ${bin.quick}${bin.plain > 0 ? ` + ${bin.plain}` : ""}`;
    const space = " ".repeat(Math.max(0, BAR_WIDTH + 8 - bar.length - rest.length - number.length));
    const window = windows.find((one) => one.gapMs === bin.to);
    const caught =
      window === undefined
        ? ""
        : `${share(window.quick, quick.total)} of quick pairs, ${String(window.plain).padStart(3)} plain`;
    const mark = gapMs !== undefined && gapMs > bin.to - BIN_MS && gapMs <= bin.to ? "  <- proposed" : "";
    print(
      `${padStart(`${bin.to} ms`, 9, paint.dim)}  ${paint.on(bar)}${paint.warning(rest)}${paint.dim(number)}${space} ${caught}${paint.title(mark)}`,
    );
  }
  print();
  print(
    `${count(quick.total, "quick pair")}: a tap of at most 200 ms, then a press of the same control within ${quick.limit} ms, and no fourth in a row.`,
  );
  print(
    `${count(plain.total, "other pair")}: held longer, another control between, or a row of presses; that is plain movement.`,
  );
  const without = times.filter((time) => time.quick.total === 0).map((time) => time.control);
  if (without.length > 0) print(`Left out here, for they have no quick pair: ${without.join(", ")}.`);
  print();
  print(
    gapMs === undefined
      ? `No window is proposed: ${reason}.`
      : `${paint.title(`gapMs ${gapMs}`)}: ${reason}.`,
  );
}

function share(part: number, whole: number): string {
  return whole === 0 ? "  - %" : `${String(Math.round((100 * part) / whole)).padStart(3)} %`;
}

function printRows(times: readonly TapTimes[], all: TapTimes, { gapMs, reason }: TapProposal): void {
  for (const { control, presses, quick, plain } of times) {
    printJson({ control, presses, quick: histogramRow(quick), plain: histogramRow(plain) });
  }
  for (const window of tapWindows(all)) {
    printJson({
      ...window,
      share: all.quick.total === 0 ? null : Math.round((1e6 * window.quick) / all.quick.total) / 1e6,
    });
  }
  printJson({ proposed: gapMs ?? null, reason });
}

/** `{ pairs, medianMs, byMs: { "184": 3 } }`. */
function histogramRow(histogram: TapTimes["quick"]) {
  const byMs = Object.fromEntries([...histogram.counts].flatMap((n, ms) => (n > 0 ? [[ms, n]] : [])));
  return { pairs: histogram.total, medianMs: histogram.total === 0 ? null : histogram.quantile(0.5), byMs };
}
