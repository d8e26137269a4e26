/**
 * A trace in time: raw controls above, actions below, with taps and their windows. In: entries of a trace and, for the
 * actions, a plan. Out: a chart's options.
 */
import type { EChartsCoreOption } from "echarts/core";
import { findControl } from "reacher";
import type { RunnablePlan } from "../planFile.js";
import { replay, startExplaining, type TraceEntry } from "reacher/trace";
import { FONT, type Ink } from "./chart.js";

/** One row: bars while something is down or on, a height 0..1 where it is analog, ticks for pulses, windows of taps. */
interface Row {
  readonly name: string;
  readonly color: string;
  readonly bars: { from: number; to: number }[];
  readonly heights: { t: number; value: number }[];
  readonly ticks: number[];
  readonly windows: { from: number; to: number }[];
}

/** How finely analog actions are drawn, in ms. */
const FINE = 8;

export interface Span {
  readonly from: number;
  readonly to: number;
}

export function timelineOption(
  entries: readonly TraceEntry[],
  plan: RunnablePlan | undefined,
  span: Span,
  ink: Ink,
  title: string,
): EChartsCoreOption {
  const controls = controlRows(entries, span, ink);
  const actions = plan === undefined ? [] : actionRows(plan, entries, span, ink);
  const gap: Row = { name: "", color: ink.paper, bars: [], heights: [], ticks: [], windows: [] };
  const rows = actions.length > 0 ? [...controls, gap, ...actions] : controls;
  const text = { color: ink.faint, fontFamily: FONT, fontSize: 13 };
  return {
    backgroundColor: ink.paper,
    title: {
      text: title,
      subtext: `controls above${plan === undefined ? "" : ", actions below; outlined: a tap's window for the next one, and how long a press is kept; ticks: pulses"}`,
      left: 30,
      top: 12,
      textStyle: { color: ink.text, fontFamily: FONT, fontSize: 18 },
      subtextStyle: text,
    },
    grid: { left: 180, right: 40, top: 84, bottom: 60 },
    xAxis: {
      type: "value",
      min: span.from,
      max: span.to,
      name: "ms",
      nameLocation: "middle",
      nameGap: 34,
      nameTextStyle: text,
      axisLabel: text,
      splitLine: { lineStyle: { color: ink.grid } },
    },
    yAxis: {
      type: "category",
      inverse: true,
      data: rows.map(({ name }) => name),
      axisLine: { show: false },
      axisTick: { show: false },
      axisLabel: { ...text, color: ink.text },
    },
    series: [
      {
        type: "custom",
        clip: true,
        data: rows.map((_, n) => [span.from, n]),
        renderItem: (_: unknown, api: DrawingApi) =>
          drawRow(rows[api.value(1)]!, api.value(1), span, api, ink),
      },
    ],
  };
}

interface DrawingApi {
  value(dimension: number): number;
  coord(point: readonly [number, number]): [number, number];
  size(extent: readonly [number, number]): [number, number];
}

function drawRow(row: Row, at: number, span: Span, api: DrawingApi, ink: Ink): object {
  const height = api.size([0, 1])[1] * 0.7;
  const middle = api.coord([span.from, at])[1];
  const x = (t: number) => api.coord([Math.min(Math.max(t, span.from), span.to), at])[0];
  const bottom = middle + height / 2;
  const box = (from: number, to: number, style: object) => ({
    type: "rect",
    shape: { x: x(from), y: middle - height / 2, width: Math.max(1.5, x(to) - x(from)), height },
    style,
  });
  const children: object[] = [];
  const seen = (one: { from: number; to: number }) => one.to > span.from && one.from < span.to;
  for (const { from, to } of row.windows.filter(seen))
    children.push(box(from, to, { fill: "none", stroke: ink.faint, lineDash: [4, 3], lineWidth: 1 }));
  for (const { from, to } of row.bars.filter(seen)) children.push(box(from, to, { fill: row.color }));
  const { heights } = row;
  if (heights.some(({ value }) => value !== 0)) {
    const points = heights.flatMap(({ t, value }, n) => {
      const y = bottom - Math.min(1, Math.abs(value)) * height;
      const next = heights[n + 1]?.t ?? span.to;
      return [
        [x(t), y],
        [x(next), y],
      ];
    });
    children.push({
      type: "polygon",
      shape: { points: [[x(heights[0]!.t), bottom], ...points, [x(span.to), bottom]] },
      style: { fill: row.color, opacity: 0.85 },
    });
  }
  for (const t of row.ticks.filter((tick) => tick >= span.from && tick <= span.to))
    children.push({
      type: "line",
      shape: { x1: x(t), x2: x(t), y1: middle - height / 2 - 2, y2: bottom + 2 },
      style: { stroke: ink.text, lineWidth: 1.5 },
    });
  return { type: "group", children };
}

/** The raw controls that were used, in order of their first use. */
function controlRows(entries: readonly TraceEntry[], span: Span, ink: Ink): Row[] {
  const rows = new Map<string, Row & { since: number | undefined }>();
  let t = 0;
  const close = (row: Row & { since: number | undefined }, end: number) => {
    if (row.since !== undefined) row.bars.push({ from: row.since, to: end });
    row.since = undefined;
  };
  for (const entry of entries) {
    t = entry.t;
    if ("lost" in entry) {
      for (const row of rows.values()) {
        close(row, t);
        if (row.heights.length > 0) row.heights.push({ t, value: 0 });
      }
    }
    if (!("control" in entry)) continue;
    const name = entry.pad > 0 ? `${entry.control} (pad ${entry.pad})` : entry.control;
    let row = rows.get(name);
    if (row === undefined) rows.set(name, (row = { ...emptyRow(name, ink.lines[5]!), since: undefined }));
    const family = findControl(entry.control)?.family;
    if (family === "axis" || family === "trigger") row.heights.push({ t, value: entry.value });
    else if (family === "motion") row.ticks.push(t);
    else if (entry.value >= 0.5) row.since ??= t;
    else close(row, t);
  }
  for (const row of rows.values()) close(row, t);
  return [...rows.values()].filter((row) => isSeen(row, span));
}

/** The actions of a plan. */
function actionRows(plan: RunnablePlan, entries: readonly TraceEntry[], span: Span, ink: Ink): Row[] {
  const rows = new Map<string, Row>();
  const label = (seat: string, action: string) => (plan.seated ? `${seat}: ${action}` : action);
  plan.seats.forEach((seat) =>
    plan.actions.forEach(({ name }, n) => {
      const color = ink.lines[n % (ink.lines.length - 1)]!;
      rows.set(label(seat.name, name), emptyRow(label(seat.name, name), color));
    }),
  );
  const since = new Map<string, number>();
  const end = entries.at(-1)?.t ?? 0;
  for (const row of replay(plan.written, entries)) {
    if (!("action" in row)) continue;
    const name = label(row.seat, row.action);
    const drawn = rows.get(name)!;
    if ("grant" in row) continue;
    if ("pulse" in row) drawn.ticks.push(row.at);
    else if ("on" in row) {
      if (row.on) since.set(name, row.at);
      else drawn.bars.push({ from: since.get(name) ?? 0, to: row.at });
      if (!row.on) since.delete(name);
    }
  }
  for (const [name, from] of since) rows.get(name)!.bars.push({ from, to: end });
  for (const row of replay(plan.written, entries, { every: FINE })) {
    if (!("now" in row)) continue;
    for (const [action, reading] of Object.entries(row.now)) {
      const { length, value } = reading as { length?: number; value?: number };
      if (length !== undefined || value !== undefined)
        rows.get(label(row.seat, action))!.heights.push({ t: row.at, value: length ?? value! });
    }
  }
  for (const seat of plan.seats)
    markWindows(plan, entries, seat.name, (action) => rows.get(label(seat.name, action))!);
  return [...rows.values()].filter((row) => isSeen(row, span));
}

/** After a tap that counts, its window for the next one; of a press that is kept, for how long. */
function markWindows(
  plan: RunnablePlan,
  entries: readonly TraceEntry[],
  seat: string,
  rowOf: (action: string) => Row,
): void {
  const gaps = new Map<string, number>();
  const keeps = new Map<string, number>();
  for (const action of plan.actions) {
    if (action.kind !== "switch") continue;
    keeps.set(action.name, action.bufferMs);
    for (const entry of action.entries) if (entry.kind === "taps") gaps.set(action.name, entry.gapMs);
  }
  const running = startExplaining(
    plan.written,
    ({ at, action, outcome, rule, text }) => {
      const gap = gaps.get(action);
      if (outcome === "counts" && (rule === "kept" || rule === "muted"))
        rowOf(action).windows.push({ from: at, to: at + keeps.get(action)! });
      else if (outcome === "counts" && gap !== undefined && /tap 1|counts as the first/.test(text))
        rowOf(action).windows.push({ from: at, to: at + gap });
    },
    seat,
  );
  for (const entry of entries) running.push(entry);
  running.finish();
}

function emptyRow(name: string, color: string): Row {
  return { name, color, bars: [], heights: [], ticks: [], windows: [] };
}

function isSeen({ bars, heights, ticks, windows }: Row, { from, to }: Span): boolean {
  const within = (one: { from: number; to: number }) => one.to > from && one.from < to;
  return (
    bars.some(within) ||
    windows.some(within) ||
    ticks.some((t) => t >= from && t <= to) ||
    heights.some(({ t, value }) => value !== 0 && t >= from && t <= to)
  );
}
