/** Where a stick was: a cloud of places, with the rim and the proposed zones. In: a measure. Out: a chart's options. */
import type { EChartsCoreOption } from "echarts/core";
import { proposeZone, type StickMeasure } from "reacher/tuning";
import { FONT, HEIGHT, WIDTH, type Ink } from "./chart.js";

const SIDE = HEIGHT - 110;

export function cloudOption(measure: StickMeasure, ink: Ink): EChartsCoreOption {
  const zone = proposeZone(measure);
  const text = { color: ink.faint, fontFamily: FONT, fontSize: 14 };
  const axis = (name: string) => ({
    type: "value",
    min: -1.2,
    max: 1.2,
    interval: 0.4,
    name,
    nameLocation: "middle",
    nameGap: 34,
    nameTextStyle: { ...text, color: ink.text },
    axisLabel: {
      ...text,
      showMinLabel: false,
      showMaxLabel: false,
      formatter: (value: number) => value.toFixed(1),
    },
    splitLine: { lineStyle: { color: ink.grid } },
  });
  const most = Math.max(...measure.cloud);
  const side = Math.sqrt(measure.cloud.length);
  const places = [...measure.cloud].flatMap((ms, at) =>
    ms === 0
      ? []
      : [
          [
            ((at % side) / (side - 1)) * 2 - 1,
            1 - (Math.floor(at / side) / (side - 1)) * 2,
            Math.log1p(ms) / Math.log1p(most),
          ],
        ],
  );
  const ring = (name: string, radius: number, color: string, type: string) => ({
    name,
    type: "line",
    showSymbol: false,
    lineStyle: { color, width: 2, type },
    itemStyle: { color },
    data: circle(() => radius),
  });
  const { rest } = measure;
  const drift =
    rest?.drift === undefined
      ? []
      : [
          [rest.first.x, rest.first.y],
          [rest.last.x, rest.last.y],
        ];
  const reached = measure.reach.flatMap((length, way) =>
    length === 0 ? [] : [onCircle(length, (way / measure.reach.length) * 2 * Math.PI)],
  );
  return {
    backgroundColor: ink.paper,
    title: {
      text: `${measure.stick} of pad ${measure.pad}, ${(measure.ms / 1000).toFixed(0)} s`,
      subtext: [
        `inner ${zone.inner}: ${zone.innerReason.replace(", ", ",\n  ")}`,
        `outer ${zone.outer}: ${zone.outerReason}`,
        ...(rest?.drift === undefined ? [] : [`drifts ${rest.drift.perMinute.toFixed(3)} a minute`]),
      ].join("\n"),
      left: 800,
      top: 60,
      textStyle: { color: ink.text, fontFamily: FONT, fontSize: 18 },
      subtextStyle: { ...text, fontSize: 14, lineHeight: 24 },
    },
    legend: {
      left: 800,
      top: 240,
      orient: "vertical",
      itemGap: 16,
      textStyle: { ...text, color: ink.text },
    },
    grid: { left: 80, top: 40, width: SIDE, height: SIDE, right: WIDTH - SIDE },
    xAxis: axis("x, raw"),
    yAxis: axis("y, raw, up is up"),
    series: [
      {
        name: "where it was; larger is longer",
        type: "scatter",
        symbolSize: (place: number[]) => 3 + 9 * place[2]!,
        itemStyle: { color: ink.lines[0], opacity: 0.6 },
        data: places,
      },
      {
        name: "furthest each way",
        type: "line",
        symbolSize: 4,
        lineStyle: { width: 1, color: ink.lines[2] },
        itemStyle: { color: ink.lines[2] },
        data: reached,
      },
      ring("rest, proposed inner zone", zone.inner, ink.lines[1]!, "solid"),
      ring("full tilt, proposed outer zone", 1 - zone.outer, ink.lines[3]!, "dashed"),
      {
        name: "drift of its rest",
        type: "line",
        symbolSize: 8,
        lineStyle: { width: 3, color: ink.lines[4] },
        itemStyle: { color: ink.lines[4] },
        data: drift,
      },
    ],
  };
}

function circle(radius: (angle: number) => number): number[][] {
  return Array.from({ length: 91 }, (_, n) => {
    const angle = (n / 90) * 2 * Math.PI;
    return onCircle(radius(angle), angle);
  });
}

function onCircle(radius: number, angle: number): number[] {
  return [radius * Math.cos(angle), radius * Math.sin(angle)];
}
