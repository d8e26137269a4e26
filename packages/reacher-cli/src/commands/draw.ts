/** `reacher draw PLAN or TRACE -o F.svg or F.png`: a response curve, a stick's cloud, or a timeline. */
import type { Plan } from "reacher";
import type { CheckedMovement } from "reacher/internal";
import type { TraceEntry } from "reacher/trace";
import { StickMeter } from "reacher/tuning";
import { didYouMean } from "../didYouMean.js";
import { drawSvg, INKS, toPng, type Ink } from "../drawing/chart.js";
import { cloudOption } from "../drawing/cloud.js";
import { curveOption } from "../drawing/curve.js";
import { drawTimeline } from "../drawing/timeline.js";
import { UseError } from "../faults.js";
import { write } from "../made.js";
import { print, printJson } from "../output.js";
import { readPlanFile, readRunnablePlan } from "../planFile.js";
import { beginningOf, isReport } from "../reportFile.js";
import { readTraceFile } from "../traceFile.js";

export interface DrawOptions {
  readonly json?: boolean;
  readonly output: string;
  readonly action?: string;
  readonly stick?: string;
  readonly plan?: string;
  readonly from?: number;
  readonly to?: number;
  readonly dark?: boolean;
}

/** A trace without a plan shows its controls alone. */
const NO_ACTIONS: Plan = { reacherPlan: 1, actions: {} };
const LEGEND =
  "controls above, actions below; behind them windows of gestures, cooldowns and kept presses; dots: pulses; crosses: presses that did nothing";

/** A timeline of more than this, in ms, is a smear; without --to it ends here. */
const LONGEST = 20_000;

export async function draw(file: string, options: DrawOptions): Promise<number> {
  const kind = /\.(svg|png)$/i.exec(options.output)?.[1]?.toLowerCase();
  if (kind === undefined) throw new UseError(`-o ${options.output}: the name has to end in .svg or .png`);
  const ink = options.dark === true ? INKS.dark : INKS.light;
  const isTrace = await beginsTrace(file);
  const drawing = isTrace
    ? options.stick === undefined
      ? await timeline(file, options)
      : await cloud(file, options.stick, ink)
    : await curve(file, options.action, ink);
  const { svg } = drawing;
  await write(options.output, kind === "svg" ? svg : await toPng(svg), [file]);
  if (options.json === true) printJson({ written: options.output, shows: drawing.shows });
  else print(`${options.output}: ${drawing.shows}`);
  return 0;
}

interface Drawing {
  readonly svg: string;
  readonly shows: string;
}

/** A trace's first line says that it is one; a report is drawn as its trace. */
async function beginsTrace(file: string): Promise<boolean> {
  return /^\uFEFF?\s*\{[^\n]*"reacherTrace"/.test(await beginningOf(file)) || isReport(file);
}

async function curve(file: string, name: string | undefined, ink: Ink): Promise<Drawing> {
  const plan = await readRunnablePlan(file);
  const { raw } = await readPlanFile(file);
  const able = plan.actions.filter(
    (action): action is CheckedMovement =>
      (action.kind === "vector" || action.kind === "axis") && action.sticks.length > 0,
  );
  const action = name === undefined ? able[0] : able.find((movement) => movement.name === name);
  if (action === undefined) {
    const names = able.map((movement) => movement.name);
    throw new UseError(
      name === undefined
        ? `${file}: no action has a stick, so there is no curve to draw`
        : `--action ${name}: it has no stick; these have: ${names.join(", ") || "none"}${didYouMean(name, names)}`,
    );
  }
  return {
    svg: drawSvg(curveOption(plan, raw as Plan, action, ink)),
    shows: `the response curve of ${action.name}`,
  };
}

async function cloud(file: string, stick: string, ink: Ink): Promise<Drawing> {
  const meter = new StickMeter();
  await readTraceFile(file, (entry) => meter.push(entry));
  meter.endTrace();
  const measures = meter.measures();
  const measure = measures.find((one) => one.stick === stick);
  if (measure === undefined) {
    const names = measures.map((one) => one.stick);
    throw new UseError(
      `--stick ${stick}: the trace has ${names.length === 0 ? "no stick" : names.join(", ")}${didYouMean(stick, names)}`,
    );
  }
  return {
    svg: drawSvg(cloudOption(measure, ink)),
    shows: `where ${stick} was, in ${(measure.ms / 1000).toFixed(0)} s`,
  };
}

async function timeline(
  file: string,
  { plan: planFile, from: given, to, dark = false }: DrawOptions,
): Promise<Drawing> {
  const own = planFile ?? ((await isReport(file)) ? file : undefined);
  const plan = own === undefined ? undefined : await readRunnablePlan(own);
  const all: TraceEntry[] = [];
  await readTraceFile(file, (entry) => void all.push(entry));
  // A report is on its layer's own clock.
  const begin = all[0] !== undefined && "state" in all[0] ? all[0].t : 0;
  const from = given ?? begin;
  const until = to ?? from + LONGEST;
  if (until <= from) throw new UseError(`--to ${until}: it has to come after --from ${from}`);
  const end = all.at(-1)?.t ?? 0;
  // What comes before is needed: a key that is held, a toggle that is on.
  const entries = all.filter(({ t }) => t <= until);
  if (entries.length === 0 || from >= end)
    throw new UseError(`${file}: it has nothing from ${from} ms on; it ends at ${end} ms`);
  const span = { from, to: Math.min(until, end) };
  entries.push({ t: span.to, end: true });
  const title = `${file.replace(/^.*[\\/]/, "")}, ${Math.round(span.from)} to ${Math.round(span.to)} ms of ${Math.round(end)}`;
  return {
    svg: drawTimeline({
      ...span,
      plan: plan?.written ?? NO_ACTIONS,
      entries,
      title,
      legend: plan === undefined ? "controls" : LEGEND,
      isDark: dark,
    }),
    shows: `${((span.to - span.from) / 1000).toFixed(1)} s of ${((end - begin) / 1000).toFixed(1)} s${plan === undefined ? "; with --plan it shows the actions too" : ""}`,
  };
}
