/**
 * One row of the timeline, for a control or an action. In: a lane and the visible range of time. Out: SVG. A row is drawn
 * anew only where its lane is another: a number that moves changes one or two of many.
 */
import { memo, useMemo, type ReactElement } from "react";
import { perPixel, POINTABLE, tellApart, thinned, type Part, type Span } from "./timeline/crowd";
import type { ActionLane, Bar, ControlLane, Moving, PlacedReason, Window } from "./timeline/lanes";

/** Controls stand closer together: there are many, and they are only there to be compared with. */
export const CONTROL_ROW = 11;
export const ROW = 15;
const BAR = 8;
/** Nothing narrower can be hit. */
const LEAST_WIDTH = 2;
/** A click this near to a mark is meant for it, in pixels. */
const NEAR = 6;

interface RowProps {
  readonly top: number;
  readonly label: string;
  /** The visible range in ms, and its position in pixels. */
  readonly from: number;
  readonly to: number;
  readonly left: number;
  readonly width: number;
  /** Where the input ends, in ms. */
  readonly end: number;
}

function usePart({ from, to, left, width }: RowProps): Part {
  return useMemo(
    () => ({ from, to, x: (t: number) => left + ((t - from) / (to - from)) * (width - left) }),
    [from, to, left, width],
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

export const ControlRow = memo(function ControlRow(props: RowProps & { readonly lane: ControlLane }) {
  const { lane, top, label } = props;
  const part = usePart(props);
  const isAnalog = lane.line.some(({ value }) => value !== 0 && value !== 1);
  return (
    <g className="control">
      <Label text={label} top={top} row={CONTROL_ROW} />
      <g clipPath="url(#lanes)">
        {isAnalog ? (
          <polyline className="value" points={pointsOf(lane, top, part)} />
        ) : (
          <Bars bars={lane.bars} top={top + (CONTROL_ROW - BAR) / 2} part={part} className="key" />
        )}
      </g>
    </g>
  );
});

/** A value as steps: it holds until the next. */
function pointsOf({ line }: ControlLane, top: number, part: Part): string {
  const height = (one: number) => top + CONTROL_ROW / 2 - (one * BAR) / 2;
  return perPixel(line, ({ value }) => Math.abs(value), line.at(-1)?.at ?? 0, part)
    .flatMap(({ from, to, one }) => [
      `${part.x(from)},${height(one.value)}`,
      `${part.x(to)},${height(one.value)}`,
    ])
    .join(" ");
}

interface BarsProps {
  readonly bars: readonly Bar[];
  readonly top: number;
  readonly part: Part;
  readonly className: string;
  readonly choose?: (bar: Bar) => void;
}

function Bars({ bars, top, part, className, choose }: BarsProps) {
  const { single, stretches } = tellApart(bars, part);
  return (
    <>
      {single.map((bar) => (
        <rect
          key={bar.from}
          className={className}
          {...(choose !== undefined && { onClick: () => choose(bar) })}
          x={part.x(bar.from)}
          y={top}
          width={Math.max(LEAST_WIDTH, part.x(bar.to) - part.x(bar.from))}
          height={BAR}
          rx="2"
        >
          <title>{`${seconds(bar.from)} to ${seconds(bar.to)} s, ${Math.round(bar.to - bar.from)} ms${bar.endedBy === undefined ? "" : `; ended by ${bar.endedBy}`}`}</title>
        </rect>
      ))}
      <Stretches stretches={stretches} top={top} height={BAR} part={part} className={className} />
    </>
  );
}

interface StretchesProps {
  readonly stretches: readonly Span[];
  readonly top: number;
  readonly height: number;
  readonly part: Part;
  readonly className: string;
}

/** Draws what is too close together to be told apart as one shape. */
function Stretches({ stretches, top, height, part: { x }, className }: StretchesProps) {
  if (stretches.length === 0) return null;
  const box = ({ from, to }: Span) => {
    const width = Math.max(1, x(to) - x(from)).toFixed(1);
    return `M${x(from).toFixed(1)},${top}h${width}v${height}h-${width}z`;
  };
  return (
    <path className={className} d={stretches.map(box).join("")}>
      <title>closer together than can be told apart here: zoom in</title>
    </path>
  );
}

interface ActionRowProps extends RowProps {
  readonly lane: ActionLane;
  readonly ghost: ActionLane | undefined;
  readonly chosen: PlacedReason | undefined;
  readonly choose: ((reason: PlacedReason) => void) | undefined;
}

export const ActionRow = memo(function ActionRow(props: ActionRowProps) {
  const { lane, ghost, top, label, chosen, choose, end } = props;
  const part = usePart(props);
  const middle = top + ROW / 2;
  const marks = thinned(lane.marks, part).shown;
  return (
    <g className="action">
      <Label text={label} top={top} row={ROW} />
      <g clipPath="url(#lanes)">
        <Windows windows={lane.windows} top={top} part={part} />
        {lane.kind === "switch" || lane.kind === "turn" ? (
          <Bars
            bars={lane.bars}
            top={top + (ROW - BAR) / 2}
            part={part}
            className="on"
            choose={(bar) => {
              const begun = lane.reasons.find(({ at, outcome }) => at === bar.from && outcome !== "nothing");
              if (begun !== undefined) choose?.(begun);
            }}
          />
        ) : (
          <Movement lane={lane} foot={middle + BAR / 2} end={end} part={part} />
        )}
        {ghost !== undefined && (
          <Ghosts bars={differing(ghost.bars, lane.bars)} top={top + (ROW - BAR) / 2 - 2} part={part} />
        )}
        {marks.map(({ at, kind }) => (
          <circle key={`${kind}${at}`} className={kind} cx={part.x(at)} cy={middle} r="2.5" />
        ))}
        <Reasons lane={lane} top={top} part={part} chosen={chosen} choose={choose} />
      </g>
    </g>
  );
}, isSameRow);

/** `choose` always does the same, so it is not compared. */
function isSameRow({ choose: _, ...one }: ActionRowProps, { choose: __, ...other }: ActionRowProps): boolean {
  return (Object.keys(one) as (keyof typeof one)[]).every((name) => one[name] === other[name]);
}

function Windows({ windows, top, part }: { windows: readonly Window[]; top: number; part: Part }) {
  const kinds = [...new Set(windows.map(({ kind }) => kind))];
  return kinds.map((kind) => {
    const { single, stretches } = tellApart(
      windows.filter((one) => one.kind === kind),
      part,
    );
    const box = { top: top + 2, height: ROW - 4, className: `window ${kind}` };
    return (
      <g key={kind}>
        {single.map(({ from, to, place }, n) => (
          <rect
            key={n}
            className={box.className}
            x={part.x(from)}
            y={box.top}
            width={Math.max(LEAST_WIDTH, part.x(to) - part.x(from))}
            height={box.height}
          >
            <title>{`${kind}: ${Math.round(to - from)} ms, by ${place}`}</title>
          </rect>
        ))}
        <Stretches stretches={stretches} part={part} {...box} />
      </g>
    );
  });
}

interface MovementProps {
  readonly lane: ActionLane;
  readonly foot: number;
  readonly end: number;
  readonly part: Part;
}

/** Draws a movement by its length, coloured by gait. A ramp has a value for each step: these are one shape. */
function Movement({ lane, foot, end, part }: MovementProps) {
  const gaits = [...new Set(lane.moving.flatMap(({ gait }) => gait ?? []))];
  const shapes = new Map<string, Skyline>();
  const single: ReactElement[] = [];
  for (const { from, to, one } of perPixel(lane.moving, lengthOf, end, part)) {
    const length = lengthOf(one);
    if (length === 0) continue;
    const { x, y, gait, pace } = one;
    const className = `moving gait-${gait === null ? "none" : gaits.indexOf(gait) % 4}`;
    const height = Math.max(2, BAR * length);
    const left = part.x(from);
    const width = Math.max(0.5, part.x(to) - left);
    if (width < POINTABLE) {
      const shape = shapes.get(className) ?? new Skyline(foot);
      shapes.set(className, shape);
      shape.add(left, left + width, height);
      continue;
    }
    single.push(
      <rect
        key={from}
        className={className}
        x={left}
        y={foot - height}
        width={width + OVERLAP}
        height={height}
      >
        <title>{`${x.toFixed(2)}, ${y.toFixed(2)}${gait === null ? "" : `, ${gait}`}${pace > 0 ? `, pace ${pace.toFixed(2)}` : ""}`}</title>
      </rect>,
    );
  }
  return (
    <>
      {[...shapes].map(([className, shape]) => (
        <path key={className} className={className} d={shape.path()} />
      ))}
      {single}
    </>
  );
}

/** Draws adjacent heights as one outline: separate boxes would show seams. May change: the path so far. */
class Skyline {
  private d = "";
  private until = -Infinity;

  constructor(private readonly foot: number) {}

  add(left: number, right: number, height: number): void {
    if (left - this.until > SEAM) this.d += `${this.end()}M${left.toFixed(1)},${this.foot}`;
    this.d += `V${(this.foot - height).toFixed(1)}H${(right + OVERLAP).toFixed(1)}`;
    this.until = right;
  }

  path(): string {
    return this.d + this.end();
  }

  private end(): string {
    return this.d === "" ? "" : `V${this.foot}z`;
  }
}

/** How much a box overlaps the next, in pixels: edges within a pixel would show as seams. */
const OVERLAP = 0.6;
/** Boxes closer than this are adjacent, in pixels. */
const SEAM = 0.1;

const lengthOf = ({ x, y }: Moving) => Math.min(1, Math.hypot(x, y));

function Ghosts({ bars, top, part }: { bars: readonly Bar[]; top: number; part: Part }) {
  const { single, stretches } = tellApart(bars, part);
  return (
    <>
      {single.map(({ from, to }) => (
        <rect
          key={from}
          className="ghost"
          x={part.x(from)}
          y={top}
          width={Math.max(LEAST_WIDTH, part.x(to) - part.x(from))}
          height={BAR + 4}
          rx="2"
        />
      ))}
      <Stretches stretches={stretches} top={top} height={BAR + 4} part={part} className="ghost" />
    </>
  );
}

/** Only the bars that differ. */
function differing(bars: readonly Bar[], others: readonly Bar[]): readonly Bar[] {
  const same = new Map(others.map(({ from, to }) => [from, to]));
  return bars.filter(({ from, to }) => same.get(from) !== to);
}

interface ReasonsProps {
  readonly lane: ActionLane;
  readonly top: number;
  readonly part: Part;
  readonly chosen: PlacedReason | undefined;
  readonly choose: ((reason: PlacedReason) => void) | undefined;
}

/** A cross for a press that did nothing, a line for one that counted. */
function Reasons({ lane, top, part, chosen, choose }: ReasonsProps) {
  const { x } = part;
  const middle = top + ROW / 2;
  const told = lane.reasons.filter(({ outcome }) => outcome !== "off");
  const { shown, isCrowded } = thinned(told, part);
  const cross = ({ at }: PlacedReason) => `M${x(at) - 3},${middle - 3}l6,6m0,-6l-6,6`;
  const line = ({ at }: PlacedReason) => `M${x(at)},${top + 3}v${ROW - 6}`;
  if (isCrowded) {
    const didNothing = thinned(
      told.filter(({ outcome }) => outcome === "nothing"),
      part,
    ).shown;
    const counted = shown.filter(({ outcome }) => outcome !== "nothing");
    const chooseNear = ({ clientX, currentTarget }: React.MouseEvent<SVGElement>) => {
      const at = clientX - currentTarget.ownerSVGElement!.getBoundingClientRect().left;
      const near = [...didNothing, ...counted].filter((reason) => Math.abs(x(reason.at) - at) <= NEAR);
      near.sort((reason, other) => Math.abs(x(reason.at) - at) - Math.abs(x(other.at) - at));
      if (near[0] !== undefined) choose?.(near[0]);
    };
    return (
      <g className="crowd" onClick={chooseNear}>
        <path className="counts" d={counted.map(line).join("")} />
        <path className="nothing" d={didNothing.map(cross).join("")} />
        {chosen !== undefined && <Hit at={x(chosen.at)} top={top} className="reason chosen" />}
      </g>
    );
  }
  return shown.map((reason, n) => (
    <g
      key={`${reason.at}${n}`}
      className={`reason ${reason.outcome}${isSame(chosen, reason) ? " chosen" : ""}`}
      onClick={(event) => {
        event.stopPropagation();
        choose?.(reason);
      }}
    >
      <path d={reason.outcome === "nothing" ? cross(reason) : line(reason)} />
      <Hit at={x(reason.at)} top={top} title={`${reason.action}: ${reason.text}`} />
    </g>
  ));
}

function Hit({ at, top, title, className }: { at: number; top: number; title?: string; className?: string }) {
  const hit = (
    <rect className="hit" x={at - 5} y={top} width="10" height={ROW}>
      {title !== undefined && <title>{title}</title>}
    </rect>
  );
  return className === undefined ? hit : <g className={className}>{hit}</g>;
}

/** A recomputed timeline has other objects for the same reasons. */
function isSame(one: PlacedReason | undefined, other: PlacedReason): boolean {
  return (
    one !== undefined &&
    one.at === other.at &&
    one.action === other.action &&
    one.seat === other.seat &&
    one.rule === other.rule
  );
}

const seconds = (t: number) => (t / 1000).toFixed(3);
