/** The parts of the chart library that drawings need. It is large: it stands in a file of its own, which only they load. */
import { init, use } from "echarts/core";
import { LineChart, ScatterChart } from "echarts/charts";
import {
  GridComponent,
  LegendComponent,
  TitleComponent,
  MarkAreaComponent,
  MarkLineComponent,
} from "echarts/components";
import { SVGRenderer } from "echarts/renderers";

use([
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  TitleComponent,
  MarkAreaComponent,
  MarkLineComponent,
  SVGRenderer,
]);

export { init };
