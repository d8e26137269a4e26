/**
 * The timeline as a drawing. In: what is drawn in full, what as an outline, the part of it that is seen, and its size. Out: SVG. The
 * same drawing is shown and saved.
 */
import type { ReactElement } from "react";
import { ActionRow, CONTROL_ROW, ControlRow, ROW } from "./drawRows";
import type { ActionLane, PlacedReason, Timeline } from "./timeline/lanes";

export interface Scene {
  readonly full: Timeline;
  readonly outline: Timeline | undefined;
  readonly from: number;
  readonly to: number;
  readonly width: number;
  readonly isSeated: boolean;
  readonly cursor: number | undefined;
  readonly chosen: PlacedReason | undefined;
  readonly choose?: (reason: PlacedReason) => void;
}

export const LABEL_WIDTH = 116;
const AXIS = 20;
const GAP = 10;

/** The height of all lanes that have something to show. */
export function heightOf({ full, outline }: Pick<Scene, "full" | "outline">): number {
  return AXIS + controlsOf(full).length * CONTROL_ROW + actionsOf(full, outline).length * ROW + GAP + 6;
}

const controlsOf = ({ controls }: Timeline) =>
  controls.filter(({ line }) => line.some(({ value }) => value !== 0));
function actionsOf(full: Timeline, outline: Timeline | undefined): readonly ActionLane[] {
  const isUsed = ({ bars, marks, moving, reasons }: ActionLane) =>
    bars.length + marks.length + moving.length + reasons.length > 0;
  const used = full.actions.filter(
    (lane) => isUsed(lane) || outline?.actions.some((action) => action.key === lane.key && isUsed(action)),
  );
  return used.length > 0 ? used : full.actions;
}

export function drawTimeline(scene: Scene): ReactElement {
  const { full, outline, from, to, width, cursor, chosen, isSeated, choose } = scene;
  const height = heightOf(scene);
  const left = LABEL_WIDTH;
  const x = (t: number) => left + ((t - from) / (to - from)) * (width - left);
  const controls = controlsOf(full);
  const actions = actionsOf(full, outline);
  const pads = new Set(controls.filter(({ control }) => control.startsWith("Pad")).map(({ pad }) => pad));
  const part = { from, to, left, width, end: full.to };
  let y = AXIS;
  const place = (height: number) => {
    const top = y;
    y += height;
    return top;
  };
  return (
    <svg
      className="timeline"
      xmlns="http://www.w3.org/2000/svg"
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="presentation"
    >
      <defs>
        <clipPath id="lanes">
          <rect x={LABEL_WIDTH} y="0" width={Math.max(0, width - LABEL_WIDTH)} height={height} />
        </clipPath>
      </defs>
      <Axis from={from} to={to} x={x} height={height} />
      {controls.map((lane) => (
        <ControlRow
          key={lane.key}
          lane={lane}
          top={place(CONTROL_ROW)}
          label={
            pads.size > 1 && lane.control.startsWith("Pad") ? `${lane.control} ${lane.pad + 1}` : lane.control
          }
          {...part}
        />
      ))}
      <line className="divide" x1="0" x2={width} y1={y + GAP / 2} y2={place(GAP) + GAP / 2} />
      {actions.map((lane) => (
        <ActionRow
          key={lane.key}
          lane={lane}
          ghost={ghostOf(lane, outline)}
          top={place(ROW)}
          label={isSeated ? `${lane.seat}: ${lane.action}` : lane.action}
          chosen={chosen?.seat === lane.seat && chosen.action === lane.action ? chosen : undefined}
          choose={choose}
          {...part}
        />
      ))}
      {cursor !== undefined && cursor >= from && cursor <= to && (
        <line className="cursor" x1={x(cursor)} x2={x(cursor)} y1="0" y2={height} />
      )}
    </svg>
  );
}

/** The outline's lane, if it differs: unchanged rows need not be redrawn. */
function ghostOf(lane: ActionLane, outline: Timeline | undefined): ActionLane | undefined {
  const ghost = outline?.actions.find(({ key }) => key === lane.key);
  return ghost === lane ? undefined : ghost;
}

type ToX = (t: number) => number;

function Axis({ from, to, x, height }: { from: number; to: number; x: ToX; height: number }) {
  const steps = [10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 30_000, 60_000, 120_000];
  const each = steps.find((step) => (to - from) / step <= 12) ?? 300_000;
  const ticks: number[] = [];
  for (let t = Math.ceil(from / each) * each; t <= to; t += each) ticks.push(t);
  const digits = each >= 1000 ? 0 : each >= 100 ? 1 : 2;
  return (
    <g className="axis" clipPath="url(#lanes)">
      {ticks.map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={AXIS - 6} y2={height} />
          <text x={x(t) + 3} y={AXIS - 8}>
            {`${(t / 1000).toFixed(digits)} s`}
          </text>
        </g>
      ))}
    </g>
  );
}
