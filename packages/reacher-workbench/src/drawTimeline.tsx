/**
 * The timeline as a drawing. In: what is drawn in full, what as an outline, the part of it that is seen, and its size. Out: SVG. The
 * same drawing is shown and saved.
 */
import type { ReactElement } from "react";
import type { ActionLane, Bar, ControlLane, PlacedReason, Timeline } from "./timeline/timeline";
import type { Window } from "./timeline/windows";

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
/** Controls stand closer together: there are many, and they are only there to be compared with. */
const CONTROL_ROW = 11;
const ROW = 15;
const BAR = 8;
const AXIS = 20;
const GAP = 10;
/** Nothing narrower can be hit. */
const LEAST_WIDTH = 2;

/** The lanes that have something to show, and how high they stand. */
export function heightOf({ full, outline }: Pick<Scene, "full" | "outline">): number {
  return AXIS + controlsOf(full).length * CONTROL_ROW + actionsOf(full, outline).length * ROW + GAP + 6;
}

const controlsOf = ({ controls }: Timeline) =>
  controls.filter(({ line }) => line.some(({ value }) => value !== 0));
function actionsOf(full: Timeline, outline: Timeline | undefined): readonly ActionLane[] {
  const isUsed = ({ bars, marks, moving, reasons }: ActionLane) =>
    bars.length + marks.length + moving.length + reasons.length > 0;
  const used = full.actions.filter(
    (lane) => isUsed(lane) || outline?.actions.some((one) => one.key === lane.key && isUsed(one)),
  );
  return used.length > 0 ? used : full.actions;
}

export function drawTimeline(scene: Scene): ReactElement {
  const { full, outline, from, to, width, cursor, isSeated } = scene;
  const height = heightOf(scene);
  const x = (t: number) => LABEL_WIDTH + ((t - from) / (to - from)) * (width - LABEL_WIDTH);
  const controls = controlsOf(full);
  const actions = actionsOf(full, outline);
  const pads = new Set(controls.filter(({ control }) => control.startsWith("Pad")).map(({ pad }) => pad));
  const isSeen = (bar: { from: number; to: number }) => bar.to >= from && bar.from <= to;
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
          x={x}
          isSeen={isSeen}
          label={
            pads.size > 1 && lane.control.startsWith("Pad") ? `${lane.control} ${lane.pad + 1}` : lane.control
          }
        />
      ))}
      <line className="divide" x1="0" x2={width} y1={y + GAP / 2} y2={place(GAP) + GAP / 2} />
      {actions.map((lane) => (
        <ActionRow
          key={lane.key}
          lane={lane}
          ghost={outline?.actions.find(({ key }) => key === lane.key)}
          windows={full.windows.get(lane.key) ?? []}
          top={place(ROW)}
          x={x}
          isSeen={isSeen}
          label={isSeated ? `${lane.seat} ${lane.action}` : lane.action}
          scene={scene}
        />
      ))}
      {cursor !== undefined && cursor >= from && cursor <= to && (
        <line className="cursor" x1={x(cursor)} x2={x(cursor)} y1="0" y2={height} />
      )}
    </svg>
  );
}

type ToX = (t: number) => number;
type IsSeen = (bar: { from: number; to: number }) => boolean;

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

function Label({ text, top, row }: { text: string; top: number; row: number }) {
  return (
    <text className={row === ROW ? "label" : "label small"} x="4" y={top + row / 2 + 4}>
      {text.length > 18 ? `${text.slice(0, 17)}…` : text}
      <title>{text}</title>
    </text>
  );
}

function ControlRow({
  lane,
  top,
  x,
  isSeen,
  label,
}: {
  lane: ControlLane;
  top: number;
  x: ToX;
  isSeen: IsSeen;
  label: string;
}) {
  const isAnalog = lane.line.some(({ value }) => value !== 0 && value !== 1);
  return (
    <g className="control">
      <Label text={label} top={top} row={CONTROL_ROW} />
      <g clipPath="url(#lanes)">
        {isAnalog ? (
          <polyline
            className="value"
            points={lane.line
              .flatMap(({ at, value }, n) => {
                const height = (one: number) => top + CONTROL_ROW / 2 - (one * BAR) / 2;
                const before = lane.line[n - 1];
                return [
                  ...(before === undefined ? [] : [`${x(at)},${height(before.value)}`]),
                  `${x(at)},${height(value)}`,
                ];
              })
              .join(" ")}
          />
        ) : (
          lane.bars
            .filter(isSeen)
            .map((bar) => (
              <BarRect key={bar.from} bar={bar} top={top + (CONTROL_ROW - BAR) / 2} x={x} className="key" />
            ))
        )}
      </g>
    </g>
  );
}

function BarRect({
  bar,
  top,
  x,
  className,
  onClick,
}: {
  bar: Bar;
  top: number;
  x: ToX;
  className: string;
  onClick?: () => void;
}) {
  return (
    <rect
      className={className}
      {...(onClick !== undefined && { onClick })}
      x={x(bar.from)}
      y={top}
      width={Math.max(LEAST_WIDTH, x(bar.to) - x(bar.from))}
      height={BAR}
      rx="2"
    >
      <title>{`${(bar.from / 1000).toFixed(3)} to ${(bar.to / 1000).toFixed(3)} s, ${Math.round(bar.to - bar.from)} ms${bar.endedBy === undefined ? "" : `; ended by ${bar.endedBy}`}`}</title>
    </rect>
  );
}

function ActionRow({
  lane,
  ghost,
  windows,
  top,
  x,
  isSeen,
  label,
  scene,
}: {
  lane: ActionLane;
  ghost: ActionLane | undefined;
  windows: readonly Window[];
  top: number;
  x: ToX;
  isSeen: IsSeen;
  label: string;
  scene: Scene;
}) {
  const middle = top + ROW / 2;
  const gaits = [...new Set(lane.moving.flatMap(({ gait }) => gait ?? []))];
  const { from, to, chosen, choose } = scene;
  return (
    <g className="action">
      <Label text={label} top={top} row={ROW} />
      <g clipPath="url(#lanes)">
        {windows.filter(isSeen).map((one, n) => (
          <rect
            key={`${one.kind}${n}`}
            className={`window ${one.kind}`}
            x={x(one.from)}
            y={top + 2}
            width={Math.max(LEAST_WIDTH, x(one.to) - x(one.from))}
            height={ROW - 4}
          >
            <title>{`${one.kind}: ${Math.round(one.to - one.from)} ms, by ${one.place}`}</title>
          </rect>
        ))}
        {lane.kind === "switch" || lane.kind === "turn"
          ? lane.bars.filter(isSeen).map((bar) => (
              <BarRect
                key={bar.from}
                bar={bar}
                top={top + (ROW - BAR) / 2}
                x={x}
                className="on"
                onClick={() => {
                  const begun = lane.reasons.find(
                    ({ at, outcome }) => at === bar.from && outcome !== "nothing",
                  );
                  if (begun !== undefined) choose?.(begun);
                }}
              />
            ))
          : lane.moving.map((one, n) => {
              const until = lane.moving[n + 1]?.at ?? scene.full.to;
              const length = Math.min(1, Math.hypot(one.x, one.y));
              if (length === 0 || until < from || one.at > to) return null;
              const height = Math.max(2, BAR * length);
              return (
                <rect
                  key={one.at}
                  className={`moving gait-${one.gait === null ? "none" : gaits.indexOf(one.gait) % 4}`}
                  x={x(one.at)}
                  y={middle + BAR / 2 - height}
                  width={Math.max(0.5, x(until) - x(one.at))}
                  height={height}
                >
                  <title>{`${one.x.toFixed(2)}, ${one.y.toFixed(2)}${one.gait === null ? "" : `, ${one.gait}`}${one.pace > 0 ? `, pace ${one.pace.toFixed(2)}` : ""}`}</title>
                </rect>
              );
            })}
        {differing(ghost?.bars ?? [], lane.bars)
          .filter(isSeen)
          .map((bar) => (
            <rect
              key={`g${bar.from}`}
              className="ghost"
              x={x(bar.from)}
              y={top + (ROW - BAR) / 2 - 2}
              width={Math.max(LEAST_WIDTH, x(bar.to) - x(bar.from))}
              height={BAR + 4}
              rx="2"
            />
          ))}
        {lane.marks
          .filter(({ at }) => at >= from && at <= to)
          .map(({ at, kind }) => (
            <circle key={`${kind}${at}`} className={kind} cx={x(at)} cy={middle} r="2.5" />
          ))}
        {lane.reasons
          .filter(({ at, outcome }) => at >= from && at <= to && outcome !== "off")
          .map((reason, n) => (
            <g
              key={`${reason.at}${n}`}
              className={`reason ${reason.outcome}${chosen === reason || isSame(chosen, reason) ? " chosen" : ""}`}
              onClick={(event) => {
                event.stopPropagation();
                choose?.(reason);
              }}
            >
              {reason.outcome === "nothing" ? (
                <path d={`M${x(reason.at) - 3},${middle - 3}l6,6m0,-6l-6,6`} />
              ) : (
                <line x1={x(reason.at)} x2={x(reason.at)} y1={top + 3} y2={top + ROW - 3} />
              )}
              <rect className="hit" x={x(reason.at) - 5} y={top} width="10" height={ROW}>
                <title>{`${reason.action}: ${reason.text}`}</title>
              </rect>
            </g>
          ))}
      </g>
    </g>
  );
}

/** A timeline that was worked out anew has other objects for the same things. */
function isSame(one: PlacedReason | undefined, other: PlacedReason): boolean {
  return (
    one !== undefined &&
    one.at === other.at &&
    one.action === other.action &&
    one.seat === other.seat &&
    one.rule === other.rule
  );
}

/** Only what is otherwise stands out. */
function differing(bars: readonly Bar[], others: readonly Bar[]): readonly Bar[] {
  const same = new Set(others.map(({ from, to }) => `${from} ${to}`));
  return bars.filter(({ from, to }) => !same.has(`${from} ${to}`));
}
