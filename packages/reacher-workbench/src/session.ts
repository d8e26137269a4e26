/**
 * The state of the page: the plan's text, the kept text, the running layer, the view. Components read it and call it; it
 * notifies them when it has changed. May change: itself, and through the server the plan's file.
 */
import type { Plan } from "reacher";
import { planNumbers, type PlanNumber } from "reacher/check";
import { parseReport, parseTrace, type TraceEntry } from "reacher/trace";
import { Played, type Told } from "./input/played";
import { measure, type Measures } from "./plan/measured";
import { readText, withValue, type ReadText } from "./plan/planText";
import { savePlan, saveTrace, type Served } from "./server";
import type { PlacedReason, Timeline } from "./timeline/lanes";
import { timelineOf } from "./timeline/timeline";
import { LongTimeline } from "./timeline/longTimeline";
import { reusing } from "./timeline/reuse";

/** The length of the live timeline, in ms. */
export const LIVE_MS = 30_000;
/** How often the live timeline is recomputed, in ms. */
const LIVE_EACH_MS = 150;
/** Longer input is computed in a worker, so that the page stays responsive, in ms. */
const LONG_MS = 60_000;

/** What the timeline is of. */
export type Source =
  { readonly kind: "live"; readonly isStopped: boolean } | { readonly kind: "trace"; readonly name: string };

/** The two plans that are compared. */
export type Side = "kept" | "now";

/** The values that a component depends on. */
export type Looked = (session: Session) => readonly unknown[];

export class Session {
  /** The text in the editor, and the kept text that it is compared with. */
  text: string;
  kept: string;
  /** The file's text, as this page last saw it. */
  fileText: string;
  private version: string;
  /** Set when both another editor and the page have changed the file. */
  conflict: { readonly text: string; readonly version: string } | undefined;
  read: ReadText;
  /** The last valid plan of the text, and the kept plan. */
  plan: Plan;
  keptPlan: Plan;
  side: Side = "now";
  source: Source = { kind: "live", isStopped: false };
  traces: { readonly name: string; readonly entries: readonly TraceEntry[] }[] = [];
  /** The timelines of the text's plan and of the kept one, for the same input. */
  now: Timeline;
  was: Timeline;
  /** 0..1 while a long trace is being computed. */
  progress: number | undefined;
  cursor: number | undefined;
  chosen: PlacedReason | undefined;
  seat: string;
  /** A short message about the last command. */
  message = "";
  /** How long the last timelines took to compute, in ms. */
  tookMs = 0;
  played: Played;
  readonly file: string;
  readonly schema: object;
  private readonly undone: string[] = [];
  private entries: readonly TraceEntry[] = [];
  private readonly long = new LongTimeline();
  /** Timelines already computed for this input, by plan. */
  private readonly made = new Map<Plan, Timeline>();
  private madeOf: readonly TraceEntry[] | undefined;
  private workedAt = 0;
  private listeners = new Set<() => void>();
  private changes = 0;
  private readonly lookedAt = new WeakMap<Looked, readonly unknown[]>();

  constructor({ file, text, isNew, version, traces, schema }: Served) {
    this.file = file;
    this.schema = schema;
    this.text = this.kept = text;
    this.fileText = isNew ? "" : text;
    this.version = version;
    this.read = readText(text);
    this.plan = this.keptPlan = this.read.plan ?? EMPTY;
    this.played = new Played(this.plan);
    this.seat = this.played.input.seats[0]!;
    this.now = this.was = timelineOf(this.plan, []);
    for (const trace of traces) this.addTrace(trace.name, trace.text);
  }

  readonly subscribe = (fn: () => void): (() => void) => {
    this.listeners.add(fn);
    return () => this.listeners.delete(fn);
  };
  readonly snapshot = (): number => this.changes;
  /** Returns the same object while all selected values are the same. */
  seen(looked: Looked): readonly unknown[] {
    const now = looked(this);
    const was = this.lookedAt.get(looked);
    if (was?.length === now.length && now.every((one, n) => Object.is(one, was[n]))) return was;
    this.lookedAt.set(looked, now);
    return now;
  }
  private tell(): void {
    this.changes++;
    for (const fn of this.listeners) fn();
  }

  get numbers(): readonly PlanNumber[] {
    return planNumbers(this.plan);
  }
  /** The kept numbers by place: a slider shows where it was. */
  get keptNumbers(): ReadonlyMap<string, number> {
    return new Map(planNumbers(this.keptPlan).map(({ place, value }) => [place, value]));
  }
  /** What the input on the timeline says about hands and sticks. */
  measured(): Measures {
    return measure(this.entries, this.now);
  }
  get isChanged(): boolean {
    return this.text !== this.kept;
  }
  /** Whether the timeline is live and follows the play. */
  get isFollowing(): boolean {
    return this.source.kind === "live" && !this.source.isStopped;
  }
  get isSaved(): boolean {
    return this.text === this.fileText;
  }
  /** Whether there has been a valid plan yet. */
  get hasPlan(): boolean {
    return this.plan !== EMPTY;
  }
  get canUndo(): boolean {
    return this.undone.length > 0;
  }
  /** Whether the text in the editor is what plays. */
  get isPlaying(): boolean {
    return this.read.plan !== undefined;
  }
  /** What is drawn in full, and what as an outline. */
  get shown(): { readonly full: Timeline; readonly outline: Timeline | undefined } {
    if (this.plan === this.keptPlan) return { full: this.now, outline: undefined };
    return this.side === "now"
      ? { full: this.now, outline: this.was }
      : { full: this.was, outline: this.now };
  }

  setText(text: string): void {
    if (text !== this.text) this.apply(text);
  }

  private apply(text: string): void {
    this.text = text;
    this.read = readText(text);
    if (this.read.plan !== undefined) this.plan = text === this.kept ? this.keptPlan : this.read.plan;
    // The slowest part is started first.
    this.work();
    this.playSide();
    this.tell();
  }

  setNumber({ path }: PlanNumber, value: number): void {
    this.side = "now";
    this.setText(withValue(this.text, path, Number(value.toPrecision(12))));
  }

  /** Keeps the new text: from now on it is what others are compared with. */
  keep(): void {
    if (!this.isChanged || !this.isPlaying) return;
    this.undone.push(this.kept);
    this.kept = this.text;
    this.keptPlan = this.plan;
    this.side = "now";
    this.work();
    this.say("Kept");
  }

  /** Goes back to the kept text. */
  back(): void {
    this.setText(this.kept);
    this.say("Back to what was kept");
  }

  undo(): void {
    const text = this.undone.pop();
    if (text === undefined) return;
    this.kept = text;
    this.keptPlan = readText(text).plan ?? EMPTY;
    this.apply(text);
    this.say("Undone");
  }

  /** Plays the other of the two plans, and shows it in full. */
  flip(): void {
    this.side = this.side === "now" ? "kept" : "now";
    this.playSide();
    this.tell();
  }

  async save(): Promise<void> {
    if (!this.isPlaying) {
      this.say("Not saved: the plan has errors");
      return;
    }
    try {
      const saved = await savePlan(this.text, this.version);
      if ("conflict" in saved) this.conflict = saved.conflict;
      else this.hasSaved(saved.version);
    } catch (error) {
      this.say(`Not saved: ${(error as Error).message}`);
    }
    this.tell();
  }

  /** Whether the command that serves the page still answers. */
  hearServer(isThere: boolean): void {
    this.say(
      isThere
        ? "The command answers again."
        : 'The command has ended: nothing can be saved. Start "reacher try" again with the same --port; your text stays here.',
    );
  }

  private hasSaved(version: string): void {
    this.version = version;
    this.fileText = this.text;
    this.conflict = undefined;
    if (this.isChanged) this.keep();
    this.say(`Saved ${this.file}`);
  }

  /** Another editor has written the file. */
  fileChanged(text: string, version: string): void {
    if (version === this.version) return;
    if (text === this.text || this.isSaved) this.takeFile(text, version);
    else {
      this.conflict = { text, version };
      this.tell();
    }
  }

  /** Takes the file's text and discards the page's. */
  takeFile(text: string, version: string): void {
    this.version = version;
    this.fileText = text;
    this.conflict = undefined;
    if (text !== this.kept) this.undone.push(this.kept);
    const { plan } = readText(text);
    if (plan !== undefined) {
      this.kept = text;
      this.keptPlan = plan;
    }
    this.setText(text);
    this.say(`${this.file} was changed elsewhere, and plays`);
  }

  /** Keeps the page's text; the next save writes over the file's. */
  keepOwn(): void {
    if (this.conflict === undefined) return;
    this.version = this.conflict.version;
    this.fileText = this.conflict.text;
    this.conflict = undefined;
    this.tell();
  }

  /** Passes a click on the situation to the layer. */
  situation(told: Told & { readonly seat?: string }): void {
    this.played.tell(told);
    this.tell();
  }

  /** Steps the layer to `now`, and recomputes the live timeline now and then. */
  frame(now: number): void {
    this.played.step(now);
    if (!this.isFollowing || now - this.workedAt < LIVE_EACH_MS) return;
    this.workedAt = now;
    const { log } = this.played;
    this.entries = log.stretch(Math.max(log.from, now - LIVE_MS), now);
    this.work();
    this.tell();
  }

  /** Stops the timeline, or lets it follow again. */
  stop(isStopped = true): void {
    this.source = { kind: "live", isStopped };
    if (!isStopped) this.cursor = this.chosen = undefined;
    this.tell();
  }

  lookAt(cursor: number | undefined): void {
    if (this.isFollowing) this.source = { kind: "live", isStopped: true };
    this.cursor = cursor;
    this.tell();
  }

  choose(reason: PlacedReason | undefined): void {
    this.chosen = reason;
    if (reason !== undefined) this.lookAt(reason.at);
    else this.tell();
  }

  /** Where the timeline begins, in ms: a report is on its own layer's clock. */
  get begin(): number {
    const [first] = this.entries;
    return first !== undefined && "state" in first ? first.t : 0;
  }

  /**
   * Reads a trace or a report and shows it; the report's plan is played, and not saved. What cannot be read is reported, and changes
   * nothing.
   */
  addTrace(name: string, text: string): void {
    try {
      const report = /^\s*\{\s*"reacherReport"/.test(text) ? parseReport(text) : undefined;
      const entries = report?.trace ?? parseTrace(text).entries;
      if (report !== undefined && !isSamePlan(report.plan, this.plan))
        this.setText(`${JSON.stringify(report.plan, null, 2)}\n`);
      this.traces = [...this.traces.filter((trace) => trace.name !== name), { name, entries }];
      this.show({ kind: "trace", name });
    } catch (error) {
      this.say(`${name}: ${(error as Error).message}`);
    }
  }

  /** A file of the player's. */
  async load(file: File): Promise<void> {
    this.addTrace(file.name, await file.text());
  }

  show(source: Source): void {
    this.source = source;
    this.cursor = this.chosen = undefined;
    if (source.kind === "trace")
      this.entries = this.traces.find(({ name }) => name === source.name)?.entries ?? [];
    this.work();
    this.say(source.kind === "trace" ? `${source.name}: ${this.entries.length} lines` : "");
  }

  /** The input as a trace: the last 30 s, or all that is kept. */
  traceText(lastMs = Infinity): string {
    const head = { reacherTrace: 1, ...(this.plan.name !== undefined && { plan: this.plan.name }) };
    const { log } = this.played;
    const now = performance.now();
    const lines = log.stretch(Math.max(log.from, now - lastMs), now);
    return [head, ...lines].map((line) => JSON.stringify(line)).join("\n") + "\n";
  }

  async record(lastMs?: number): Promise<void> {
    try {
      this.say(`Saved ${await saveTrace(this.traceText(lastMs))}`);
    } catch (error) {
      this.say(`Not saved: ${(error as Error).message}`);
    }
  }

  /** Computes both timelines: synchronously if they are short. Timelines known already are reused. */
  private work(): void {
    const { entries, plan, keptPlan } = this;
    if (this.madeOf !== entries) {
      this.madeOf = entries;
      this.made.clear();
    }
    const begun = performance.now();
    const missing = [...new Set([keptPlan, plan])].filter((one) => !this.made.has(one));
    const isLong = missing.length > 0 && (entries.at(-1)?.t ?? 0) > LONG_MS;
    const show = (timelines: readonly Timeline[]) => {
      missing.forEach((one, n) => this.made.set(one, reusing(this.was, timelines[n]!)));
      for (const one of this.made.keys()) if (one !== plan && one !== keptPlan) this.made.delete(one);
      this.was = this.made.get(keptPlan)!;
      this.now = reusing(this.was, this.made.get(plan)!);
      this.progress = undefined;
      this.tookMs = performance.now() - begun;
    };
    if (!isLong) {
      this.long.forget();
      show(missing.map((one) => timelineOf(one, entries)));
      return;
    }
    this.long.work(missing, entries, {
      progress: (share) => {
        this.progress = share;
        this.tell();
      },
      done: (timelines) => {
        // Of an older order, while a slider moves; but not compared with what is kept no more.
        if (keptPlan !== this.keptPlan) return;
        show(timelines);
        this.tell();
      },
    });
  }

  private playSide(): void {
    this.played.setPlan(this.side === "now" ? this.plan : this.keptPlan);
    if (!this.played.input.seats.includes(this.seat)) this.seat = this.played.input.seats[0]!;
  }

  setSeat(seat: string): void {
    this.seat = seat;
    this.tell();
  }

  say(message: string): void {
    this.message = message;
    this.tell();
  }
}

/** What plays before there is a valid plan. */
const EMPTY: Plan = { reacherPlan: 1, actions: {} };

function isSamePlan(one: Plan, other: Plan): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
