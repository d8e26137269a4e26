/**
 * The initial state of a recording: what was held, and the game's commands, in their order. In: dropped lines of a
 * trace. Out: lines that lead to the same state. May change: these.
 */
import type { Controls } from "../controls/ownControls.js";
import { POINTER } from "../plan/pointer.js";
import { ANYTHING } from "../engine/recordable.js";
import type { LatchLine } from "./present.js";

type Line = Readonly<Record<string, unknown>>;

const MIDDLE = [0, 0] as const;

export class Before {
  /** What is held, and what the game drives, in the order of their last changes: on a tie the present one counts. */
  private readonly held: Map<string, Line>;
  /** Flags, modes, mutes, overrides, pads and seats. */
  private readonly told: Map<string, Line>;
  /** What the game drives, in the order in which it began. */
  private readonly drives: Map<string, Line>;
  private readonly latches: Map<string, LatchLine>;
  /** Where the pointer is. */
  private point: readonly [x: number, y: number];

  constructor(
    private readonly controls: () => Controls,
    other?: Before,
  ) {
    this.held = new Map(other?.held);
    this.told = new Map(other?.told);
    this.drives = new Map(other?.drives);
    this.latches = new Map(other?.latches);
    this.point = other?.point ?? MIDDLE;
  }

  apply(given: object): void {
    const { after: _, ...line } = given as Line;
    if (line["control"] === "MousePointX") this.point = [line["value"] as number, this.point[1]];
    else if (line["control"] === "MousePointY") this.point = [this.point[0], line["value"] as number];
    else if (line["spot"] === POINTER) this.point = line["value"] as [number, number];
    else if ("control" in line) this.hold(line);
    else if ("lost" in line) this.lose(line);
    else if ("reset" in line) this.reset(line);
    else if ("unmute" in line) this.unmute(line);
    else if ("drive" in line) this.drive(line);
    else if ("latch" in line)
      this.latches.set(JSON.stringify([line["latch"], line["seat"]]), given as LatchLine);
    // Its latch follows.
    else if (!("setSwitch" in line)) this.tell(line);
  }

  clear(): void {
    for (const all of [this.held, this.told, this.drives, this.latches]) all.clear();
    this.point = MIDDLE;
  }

  private hold(line: Line): void {
    const key = `${line["control"] as string} ${line["pad"] as number} ${(line["seat"] as string) ?? ""}`;
    this.held.delete(key);
    if (line["value"] !== 0) this.held.set(key, line);
  }

  private lose({ lost, pad, seat }: Line): void {
    const controls = this.controls();
    const isLost = (line: Line) => {
      const own = controls.ownOf(line["control"] as string);
      if (seat !== undefined && line["seat"] !== undefined && line["seat"] !== seat) return false;
      if (lost === "pad") return line["pad"] === pad;
      return lost === "focus" ? own?.keepsFocus !== true : own?.device === lost;
    };
    for (const [key, line] of this.held) if ("control" in line && isLost(line)) this.held.delete(key);
    if (lost === "focus") this.point = MIDDLE;
  }

  private reset({ seat }: Line): void {
    const isGone = (one: Line) => one["seat"] === seat;
    for (const [key, line] of this.told) if (isGone(line) && isSituation(line)) this.told.delete(key);
    for (const [key, line] of this.drives)
      if (isGone(line)) {
        this.drives.delete(key);
        this.held.delete(key);
      }
  }

  private unmute({ unmute, reason, seat }: Line): void {
    for (const [key, one] of this.told)
      if (
        one["mute"] === unmute &&
        one["seat"] === seat &&
        (reason === undefined || one["reason"] === reason)
      )
        this.told.delete(key);
  }

  /** A reason keeps the position at which it began. */
  private drive(line: Line): void {
    // What was fading by then has no line: it began before.
    const { blendMs: _, ...begun } = line;
    const { drive, reason, seat, value } = begun;
    const key = JSON.stringify([{ drive, reason, seat }]);
    this.held.delete(key);
    if (value === null) this.drives.delete(key);
    else {
      this.drives.set(key, begun);
      this.held.set(key, begun);
    }
  }

  /** A repeated command moves to the end: a mode that is entered again is on top. */
  private tell(line: Line): void {
    const mode = line["enter"] ?? line["leave"];
    const { value: _, overrides, pad, openSeats, ...rest } = line;
    const what = [overrides !== undefined, openSeats !== undefined, pad !== undefined];
    const key = JSON.stringify(mode === undefined ? [rest, what] : [mode, line["seat"]]);
    this.told.delete(key);
    this.told.set(key, line);
  }

  /** Seats and bindings come first, then the game's commands, then what is held and driven, then what was switched on before. */
  lines(): Line[] {
    const told = [...this.told.values()];
    return [
      ...told.filter((line) => !isSituation(line)),
      ...told.filter(isSituation),
      ...this.sources(),
      ...this.pointed(),
      ...this.switched(),
    ];
  }

  /** Where the pointer is; and if it counts, a move of it, which comes after the keys that are held. */
  private pointed(): Line[] {
    const [x, y] = this.point;
    const isMiddle = x === 0 && y === 0;
    if (![...this.latches.values()].some(({ points, value }) => points === true && value))
      return isMiddle ? [] : [{ spot: POINTER, value: [x, y] }];
    return [
      { spot: POINTER, value: isMiddle ? [1, 0] : MIDDLE },
      { control: "MousePointX", value: x },
      { control: "MousePointY", value: y },
    ];
  }

  /** What is held or driven. Of one action's drives the newest counts, so all of them come where that changed last. */
  private sources(): Line[] {
    return [...this.held].flatMap(([key, line]) => {
      if ("control" in line) return [line];
      const own = [...this.drives].filter(
        ([, one]) => one["drive"] === line["drive"] && one["seat"] === line["seat"],
      );
      return own.at(-1)![0] === key ? own.map(([, one]) => one) : [];
    });
  }

  /** A key that is held at the start presses its toggle there: what was on before is set after it. */
  private switched(): Line[] {
    const held = new Set([...this.held.values()].map((line) => line["control"]));
    return [...this.latches.values()]
      .filter(
        ({ value, startsOn, by, points }) =>
          points !== true &&
          (value !== startsOn || by.some((control) => control === ANYTHING || held.has(control))),
      )
      .map(({ latch, value, seat }) => ({
        setSwitch: latch,
        value,
        ...(seat === undefined ? {} : { seat }),
      }));
  }
}

/** The kinds of lines that a reset undoes. */
function isSituation(line: Line): boolean {
  return ["flag", "number", "spot", "enter", "leave", "mute"].some((field) => field in line);
}
