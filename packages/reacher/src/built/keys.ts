/**
 * The second part of a game whose players set their own keys: the rules, in place of code that was made of them. Loaded by `bringKeys`; games do not import
 * it themselves.
 *
 * @module reacher/internal/keys
 */
import { EVERY } from "../engine/every.js";
import { exchange } from "../engine/exchange.js";
import { makeReading } from "../engine/readings.js";
import { Scheduler } from "../engine/scheduler.js";
import { SeatEngine } from "../engine/seat.js";
import type { Tables } from "../engine/tables.js";
import type { Rules } from "../layer/builtParts.js";
import { change, compiledBy, compileSlowly } from "../layer/compiled.js";
import { grow } from "../lean/grow.js";
import type { Grow } from "../lean/untilKeys.js";
import { override } from "../layer/override.js";
import { PlayersPlans } from "./playersPlans.js";
import { readAhead } from "./readAhead.js";

interface Port {
  onmessage: (() => void) | null;
  postMessage(message: number): void;
  close(): void;
}
declare const MessageChannel: new () => { readonly port1: Port; readonly port2: Port };

/** All rules, and rebinding. Its contents are internal. */
export interface KeyRules {
  readonly part: "rules";
}

/** The page goes on for a moment: by a message, since a timer in a row of timers waits for 4 ms (HTML, 8.6). */
const pause = () =>
  new Promise<void>((done) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      done();
    };
    port2.postMessage(0);
  });

const tablesOf = compiledBy(EVERY);

/** A seat that nobody plays goes over first: what a browser runs for the first time it compiles then, which takes longer than the change-over itself. */
function rehearse(tables: Tables): void {
  const seat = new SeatEngine(tables, new Scheduler());
  exchange(seat, tables, makeReading(seat, tables));
}

const all: Rules = {
  tablesOf,
  override,
  change,
  exchange,
  ownPlans: (written, checked) => new PlayersPlans(written, checked),
  pause,
  prepare: async (plan, slots) => {
    await compileSlowly(EVERY, plan, slots, pause);
    await pause();
    rehearse(tablesOf(plan, slots));
  },
};

export const rules = all as unknown as KeyRules;

/** For layers that are not whole yet. */
export const growing = (async (lean) => {
  await pause();
  await grow(lean, all, readAhead);
}) satisfies Grow as unknown as KeyRules;
