/** The response curve of a movement: raw tilt against shaped, with its zones and gaits. In: a plan. Out: a chart's options. */
import type { EChartsCoreOption } from "echarts/core";
import { createInputLayer, type Plan } from "reacher";
import type { CheckedMovement, CheckedPlan, CheckedStick } from "reacher/internal";
import { FONT, type Ink } from "./chart.js";

const STEPS = 400;

export function curveOption(
  plan: CheckedPlan,
  raw: Plan,
  action: CheckedMovement,
  ink: Ink,
): EChartsCoreOption {
  const sticks = distinct(action.sticks);
  const zones = sticks.map(({ shape }) => shape);
  const inner = Math.min(...zones.map((shape) => shape.inner));
  const outer = Math.max(...zones.map((shape) => 1 - shape.outer));
  const gaits = action.gaits.map(({ name, from }) => ({
    yAxis: from,
    label: {
      formatter: `${name} from ${from}`,
      position: "insideStartTop",
      color: ink.faint,
      fontFamily: FONT,
      fontSize: 14,
    },
  }));
  const text = { color: ink.faint, fontFamily: FONT, fontSize: 14 };
  const axis = {
    type: "value",
    min: 0,
    max: 1,
    interval: 0.1,
    nameLocation: "middle",
    axisLabel: { ...text, formatter: (value: number) => value.toFixed(1) },
    nameTextStyle: { ...text, color: ink.text },
    splitLine: { lineStyle: { color: ink.grid } },
  };
  return {
    backgroundColor: ink.paper,
    title: {
      text: `${plan.name === "" ? "" : `${plan.name}: `}${action.name}, raw tilt and what it gives`,
      subtext: sticks.map(shapeText).join("     "),
      left: 70,
      top: 16,
      textStyle: { color: ink.text, fontFamily: FONT, fontSize: 20 },
      subtextStyle: { ...text, fontSize: 14 },
    },
    legend: { show: sticks.length > 1, top: 24, right: 60, textStyle: text },
    grid: { left: 90, right: 60, top: 100, bottom: 80 },
    xAxis: { ...axis, name: "raw tilt", nameGap: 40 },
    yAxis: { ...axis, name: "shaped", nameGap: 50 },
    series: sticks.map((stick, n) => ({
      name: stick.control.name,
      type: "line",
      showSymbol: false,
      lineStyle: { width: 3, color: ink.lines[n % ink.lines.length] },
      itemStyle: { color: ink.lines[n % ink.lines.length] },
      data: points(raw, plan, action, stick),
      ...(n > 0
        ? {}
        : {
            markArea: {
              silent: true,
              itemStyle: { color: ink.zone },
              label: { ...text, position: "insideTop", distance: 12 },
              data: [
                [{ name: "rest", xAxis: 0 }, { xAxis: inner }],
                [{ name: "full", xAxis: outer }, { xAxis: 1 }],
              ],
            },
            markLine: {
              silent: true,
              symbol: "none",
              lineStyle: { color: ink.faint, type: "dashed", width: 1.5 },
              data: gaits,
            },
          }),
    })),
  };
}

/** Found out by using the plan, so that the picture shows what a game gets. */
function points(
  raw: Plan,
  plan: CheckedPlan,
  action: CheckedMovement,
  { control, slot }: CheckedStick,
): [number, number][] {
  const input = createInputLayer(raw);
  const seat = plan.seats.find(({ slots }) => slots.includes(slot))!.name;
  if (plan.seated) input.assignPad(seat, 0);
  for (const mode of action.in) input.seat(seat).enter(mode);
  const reading = input.seat(seat).now[action.name] as unknown as { length?: number; value?: number };
  return Array.from({ length: STEPS + 1 }, (_, n) => {
    const tilt = n / STEPS;
    input.feed({ t: n + 1, control: control.parts[0]!, value: tilt });
    input.step(n + 1);
    return [tilt, Math.abs(reading.length ?? reading.value ?? 0)];
  });
}

/** Sticks of one shape are one line. */
function distinct(sticks: readonly CheckedStick[]): CheckedStick[] {
  const seen = new Set<string>();
  return sticks.filter(({ shape }) => {
    const key = JSON.stringify(shape);
    return !seen.has(key) && seen.add(key);
  });
}

function shapeText({ control, shape }: CheckedStick): string {
  const curve = shape.points === undefined ? `power ${shape.power}` : `${shape.points.length} points`;
  const gain = shape.gain === 1 ? "" : `, gain ${shape.gain}`;
  return `${control.name}: ${shape.kind} dead zone, inner ${shape.inner}, outer ${shape.outer}; ${curve}${gain}`;
}
