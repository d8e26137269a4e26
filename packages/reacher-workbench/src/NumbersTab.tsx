/** Every number of the plan as a slider, with what suits and what was measured drawn under it. */
import { memo, useMemo, useState } from "react";
import {
  Input,
  Label,
  NumberField,
  SearchField,
  Slider,
  SliderThumb,
  SliderTrack,
} from "react-aria-components";
import type { PlanNumber } from "reacher/check";
import { measuredFor, type Measured } from "./plan/measured";
import type { Session } from "./session";
import { useSession } from "./useSession";

/** How often measurements are updated, in ms. */
const MEASURE_EACH_MS = 500;

export function NumbersTab({ session }: { session: Session }) {
  useSession(session);
  const [wanted, search] = useState("");
  const { numbers } = session;
  // Measurements do not depend on the plan; of live input they are updated now and then.
  const input = session.isFollowing ? Math.floor(performance.now() / MEASURE_EACH_MS) : session.now.controls;
  const measures = useMemo(() => session.measured(), [session, session.source, input]);
  const shown = numbers.filter(({ place }) => place.toLowerCase().includes(wanted.toLowerCase()));
  const groups = new Map<string, PlanNumber[]>();
  for (const number of shown) {
    const group = number.action ?? "the whole plan";
    groups.set(group, [...(groups.get(group) ?? []), number]);
  }
  const kept = session.keptNumbers;
  return (
    <div className="numbers">
      <SearchField aria-label="Find numbers" value={wanted} onChange={search}>
        <Input placeholder="Find a number: gapMs, swim, inner" />
      </SearchField>
      {[...groups].map(([action, own]) => (
        <section key={action} aria-label={action}>
          <h2>{action}</h2>
          {own.map((number) => (
            <NumberRow
              key={number.place}
              number={number}
              before={kept.get(number.place)}
              measured={measuredFor(number, measures)}
              session={session}
            />
          ))}
        </section>
      ))}
      {shown.length === 0 && (
        <p>{numbers.length === 0 ? "This plan has no numbers yet." : `No number matches "${wanted}".`}</p>
      )}
    </div>
  );
}

interface NumberRowProps {
  readonly number: PlanNumber;
  readonly before: number | undefined;
  readonly measured: Measured | undefined;
  readonly session: Session;
}

/** There are dozens of rows: only the one that changes is redrawn. */
const NumberRow = memo(DrawnNumber, (a, b) => {
  const [was, is] = [a.number, b.number];
  return (
    was.place === is.place &&
    was.value === is.value &&
    was.isWritten === is.isWritten &&
    a.before === b.before &&
    a.measured?.text === b.measured?.text &&
    a.measured?.points.join() === b.measured?.points.join()
  );
});

function DrawnNumber({ number, before, measured, session }: NumberRowProps) {
  const { place, value, least, step, sane, unit, isWritten } = number;
  const most = Math.max(number.most, value);
  const name = nameOf(number);
  const share = (one: number) => `${Math.min(100, Math.max(0, ((one - least) / (most - least)) * 100))}%`;
  const isOdd = sane !== undefined && (value < sane.least || value > sane.most);
  const format: Intl.NumberFormatOptions = { maximumFractionDigits: 3, useGrouping: false };
  return (
    <div className={isOdd ? "number odd" : "number"} id={`number ${place}`}>
      <Slider
        value={value}
        minValue={least}
        maxValue={most}
        step={step}
        formatOptions={format}
        onChange={(to) => session.setNumber(number, to as number)}
      >
        <Label>{name}</Label>
        <SliderTrack>
          {sane !== undefined && (
            <div
              className="sane"
              style={{ left: share(sane.least), width: `calc(${share(sane.most)} - ${share(sane.least)})` }}
            />
          )}
          {measured !== undefined && <Points at={measured.points} least={least} most={most} />}
          {before !== undefined && before !== value && (
            <div className="before" style={{ left: share(before) }} title={`kept: ${before}`} />
          )}
          <SliderThumb aria-label={`${name} of ${number.action ?? "the plan"}`} />
        </SliderTrack>
      </Slider>
      <NumberField
        aria-label={`${name} of ${number.action ?? "the plan"}, as a number`}
        value={value}
        formatOptions={format}
        onChange={(to) => Number.isFinite(to) && session.setNumber(number, to)}
      >
        <Input />
      </NumberField>
      <span className="unit">{UNITS[unit]}</span>
      <span className="note">
        {[
          !isWritten && "by default",
          isOdd && `outside of ${sane.least} to ${sane.most}, which suits most`,
          measured?.text,
        ]
          .filter(Boolean)
          .join("; ")}
      </span>
    </div>
  );
}

/** Measured values as ticks: hundreds of them in one shape. */
function Points({ at, least, most }: { at: readonly number[]; least: number; most: number }) {
  const share = (one: number) => Math.min(1, Math.max(0, (one - least) / (most - least)));
  const lines = [...new Set(at.map((one) => `M${share(one).toFixed(3)},0v1`))];
  return (
    <svg className="points" viewBox="0 0 1 1" preserveAspectRatio="none" aria-hidden="true">
      <path d={lines.join("")} />
    </svg>
  );
}

const UNITS: Readonly<Record<PlanNumber["unit"], string>> = {
  ms: "ms",
  share: "0..1",
  factor: "times",
  degrees: "deg",
  speed: "pace",
  presses: "presses",
};

/** The part of its place that distinguishes it from its neighbours. */
function nameOf({ path, name, action }: PlanNumber): string {
  const own = path.slice(action === undefined ? 0 : 2).filter((part) => part !== "from" && part !== "shape");
  return own.length > 1 ? own.join(" ") : name;
}
