/** The timeline with its controls: a cursor by pointer or keys, zoom, and reasons by a click. */
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Button, ToggleButton } from "react-aria-components";
import { download, svgText } from "./download";
import { drawTimeline, LABEL_WIDTH } from "./drawTimeline";
import { decidingNumber } from "./plan/deciding";
import { LIVE_MS, type Session } from "./session";
import { differencesOf, differenceText } from "./timeline/difference";
import type { PlacedReason, Timeline } from "./timeline/lanes";
import { useSession } from "./useSession";

/** The narrowest part that is shown, in ms. */
const NARROWEST_MS = 100;
const ZOOM = 1.3;

export function TimelineView({ session }: { session: Session }) {
  useSession(session);
  const box = useRef<HTMLDivElement>(null);
  const drawing = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1200);
  /** The part that is shown; all of it where none is chosen. */
  const [part, setPart] = useState<{ readonly from: number; readonly to: number } | undefined>(undefined);
  const { source, cursor, progress } = session;
  const { full, outline } = session.shown;
  const { begin } = session;
  const whole = { from: begin, to: Math.max(begin + (source.kind === "live" ? LIVE_MS : 1000), full.to) };
  const seen = part ?? whole;
  const { isFollowing } = session;

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  useEffect(() => setPart(undefined), [source]);

  const zoom = useCallback(
    (by: number, around: number) => {
      const length = Math.min(whole.to - begin, Math.max(NARROWEST_MS, (seen.to - seen.from) * by));
      const from = Math.min(
        Math.max(begin, around - ((around - seen.from) / (seen.to - seen.from)) * length),
        whole.to - length,
      );
      setPart({ from, to: from + length });
    },
    [begin, seen.from, seen.to, whole.to],
  );
  useEffect(() => {
    const turn = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.altKey && event.deltaX === 0 && !isFollowing) {
        event.preventDefault();
        zoom(event.deltaY > 0 ? ZOOM : 1 / ZOOM, timeAt(event.clientX));
      }
    };
    const element = drawing.current!;
    element.addEventListener("wheel", turn, { passive: false });
    return () => element.removeEventListener("wheel", turn);
  });
  const timeAt = (clientX: number) => {
    const { left } = drawing.current!.getBoundingClientRect();
    const share = (clientX - left - LABEL_WIDTH) / (width - LABEL_WIDTH);
    return Math.min(full.to, Math.max(begin, seen.from + share * (seen.to - seen.from)));
  };

  const look = (t: number) => {
    session.lookAt(t);
    if (t < seen.from || t > seen.to) {
      const half = (seen.to - seen.from) / 2;
      const from = Math.min(Math.max(begin, t - half), Math.max(begin, whole.to - 2 * half));
      setPart({ from, to: from + 2 * half });
    }
  };
  const hear = (event: React.KeyboardEvent) => {
    const at = cursor ?? full.to;
    const moments = momentsOf(full);
    if (event.key === "ArrowRight")
      look(event.shiftKey ? at + 1 : (moments.find((t) => t > at + 1e-6) ?? full.to));
    else if (event.key === "ArrowLeft")
      look(event.shiftKey ? Math.max(0, at - 1) : (moments.findLast((t) => t < at - 1e-6) ?? 0));
    else if (event.key === "Home") look(0);
    else if (event.key === "End") look(full.to);
    else if (event.key === "+" || event.key === "=") zoom(1 / ZOOM, at);
    else if (event.key === "-") zoom(ZOOM, at);
    else if (event.key === "0") setPart(undefined);
    else if (event.key === "Enter")
      session.choose(reasonsOf(full).find((reason) => Math.abs(reason.at - at) < 0.5));
    else return;
    event.preventDefault();
  };

  const scene = {
    full,
    outline,
    ...seen,
    width,
    isSeated: session.played.input.seats.length > 1,
    cursor,
    chosen: session.chosen,
  };
  // Thousands of bars: redrawn only when they or the view have changed.
  const drawn = useMemo(
    () => drawTimeline({ ...scene, choose: (reason) => session.choose(reason) }),
    [full, outline, seen.from, seen.to, width, cursor, session.chosen],
  );
  const difference = useMemo(
    () => (outline === undefined ? "" : differenceText(differencesOf(outline, full), scene.isSeated)),
    [full, outline],
  );
  return (
    <section className="below" aria-label="Timeline" ref={box}>
      <div className="bar">
        {source.kind === "live" ? (
          <ToggleButton isSelected={isFollowing} onChange={(follows) => session.stop(!follows)}>
            {isFollowing ? "Following: stop" : "Stopped: follow"}
          </ToggleButton>
        ) : (
          <Button onPress={() => session.show({ kind: "live", isStopped: false })}>Back to playing</Button>
        )}
        <span>{source.kind === "live" ? "the last 30 s" : source.name}</span>
        {progress !== undefined && <progress aria-label="Computing the trace" value={progress} />}
        <span className="difference" data-testid="difference" role="status">
          {outline !== undefined &&
            (session.side === "now" ? difference : "What was kept, in full; what is new, as an outline")}
        </span>
        <span
          className="took"
          title="Time to compute both timelines"
        >{`${session.tookMs.toFixed(0)} ms`}</span>
        <Button aria-label="Zoom in" onPress={() => zoom(1 / ZOOM, cursor ?? (seen.from + seen.to) / 2)}>
          +
        </Button>
        <Button aria-label="Zoom out" onPress={() => zoom(ZOOM, cursor ?? (seen.from + seen.to) / 2)}>
          −
        </Button>
        <Button
          onPress={() =>
            download(
              `${fileName(session)}.svg`,
              "image/svg+xml",
              svgText(drawTimeline({ ...scene, width: 1200 })),
            )
          }
        >
          Save SVG
        </Button>
      </div>
      <div
        ref={drawing}
        className="lanes"
        role="slider"
        tabIndex={0}
        aria-label="Moment: arrows go from change to change, with Shift by 1 ms, plus and minus zoom, Enter asks why"
        aria-valuemin={0}
        aria-valuemax={Math.round(full.to)}
        aria-valuenow={Math.round(cursor ?? full.to)}
        aria-valuetext={momentText(full, cursor)}
        onKeyDown={hear}
        onPointerDown={(event) => session.lookAt(timeAt(event.clientX))}
        onPointerMove={(event) => event.buttons === 1 && session.lookAt(timeAt(event.clientX))}
      >
        {drawn}
      </div>
      <Why session={session} timeline={full} />
    </section>
  );
}

/** The chosen press in a sentence, the number that decided, and the other presses that did nothing. */
function Why({ session, timeline }: { session: Session; timeline: Timeline }) {
  const { chosen, numbers } = session;
  const [isOpen, open] = useState(false);
  const reasons = useMemo(() => reasonsOf(timeline), [timeline]);
  const nothing = useMemo(() => reasons.filter(({ outcome }) => outcome === "nothing"), [reasons]);
  const current =
    chosen &&
    (reasons.find(
      ({ at, action, seat }) => at === chosen.at && action === chosen.action && seat === chosen.seat,
    ) ??
      chosen);
  const number = current && decidingNumber(current, numbers);
  return (
    <div className="why">
      <p data-testid="why" role="status">
        {current === undefined
          ? "Click a mark, or go to one with the arrows and press Enter: it says why."
          : `${(current.at / 1000).toFixed(3)} s, ${current.action}: ${current.text}.`}
      </p>
      {number !== undefined && (
        <Button
          onPress={() => document.getElementById(`number ${number.place}`)?.querySelector("input")?.focus()}
        >
          Go to {number.name}, {number.value} {number.unit === "ms" ? "ms" : ""}
        </Button>
      )}
      <details onToggle={({ currentTarget }) => open(currentTarget.open)}>
        <summary>{`${nothing.length} ${nothing.length === 1 ? "press" : "presses"} that did nothing`}</summary>
        {isOpen && (
          <ul>
            {nothing.slice(-40).map((reason, n) => (
              <li key={n}>
                <Button
                  onPress={() => session.choose(reason)}
                >{`${(reason.at / 1000).toFixed(2)} s ${reason.action}: ${reason.text}`}</Button>
              </li>
            ))}
          </ul>
        )}
      </details>
    </div>
  );
}

function reasonsOf({ actions }: Timeline): PlacedReason[] {
  return actions.flatMap(({ reasons }) => reasons).sort((reason, other) => reason.at - other.at);
}

/** All moments at which anything changed. */
function momentsOf({ controls, actions }: Timeline): number[] {
  const all = [
    ...controls.flatMap(({ line }) => line.map(({ at }) => at)),
    ...actions.flatMap(({ bars, marks, reasons }) => [
      ...bars.flatMap(({ from, to }) => [from, to]),
      ...marks.map(({ at }) => at),
      ...reasons.map(({ at }) => at),
    ]),
  ];
  return [...new Set(all)].sort((a, b) => a - b);
}

function momentText({ controls, actions }: Timeline, cursor: number | undefined): string {
  if (cursor === undefined) return "now";
  const at = ({ bars }: { bars: readonly { from: number; to: number }[] }) =>
    bars.some(({ from, to }) => from <= cursor && cursor < to);
  const held = controls.filter(at).map(({ control }) => control);
  const on = actions.filter(at).map(({ action }) => action);
  return `${(cursor / 1000).toFixed(3)} s; held: ${held.join(", ") || "nothing"}; on: ${on.join(", ") || "nothing"}`;
}

const fileName = (session: Session) =>
  session.source.kind === "live" ? "timeline" : session.source.name.replace(/\.trace\.jsonl$|\.jsonl$/, "");
