/**
 * The initial state of a recording: what was held, and the game's commands, in their order. In: dropped lines of a
 * trace. Out: lines that lead to the same state. May change: these.
 */

type Line = Readonly<Record<string, unknown>>;

export class Before {
  private readonly held: Map<string, Line>;
  /** Flags, modes, mutes, overrides, pads and seats. */
  private readonly told: Map<string, Line>;

  constructor(other?: Before) {
    this.held = new Map(other?.held);
    this.told = new Map(other?.told);
  }

  apply(given: object): void {
    const { after: _, ...line } = given as Line;
    if ("control" in line) this.hold(line);
    else if ("lost" in line) this.lose(line);
    else if ("reset" in line) this.forget((one) => one["seat"] === line["seat"] && isSituation(one));
    else if ("unmute" in line) this.unmute(line);
    else if ("drive" in line) this.drive(line);
    else this.tell(line);
  }

  private hold(line: Line): void {
    const key = `${line["control"] as string} ${line["pad"] as number}`;
    if (line["value"] === 0) this.held.delete(key);
    else this.held.set(key, line);
  }

  private lose({ lost, pad }: Line): void {
    for (const [key, line] of this.held) if (lost === "focus" || line["pad"] === pad) this.held.delete(key);
  }

  private unmute({ unmute, reason, seat }: Line): void {
    this.forget(
      (one) =>
        one["mute"] === unmute && one["seat"] === seat && (reason === undefined || one["reason"] === reason),
    );
  }

  /** A reason keeps the position at which it began. */
  private drive(line: Line): void {
    const { drive, reason, seat, value } = line;
    const key = JSON.stringify([{ drive, reason, seat }]);
    if (value === null) this.told.delete(key);
    else this.told.set(key, line);
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

  private forget(isGone: (line: Line) => boolean): void {
    for (const [key, line] of this.told) if (isGone(line)) this.told.delete(key);
  }

  /** Seats and bindings come first, then the game's commands, then what is held. */
  lines(): Line[] {
    const told = [...this.told.values()];
    return [...told.filter((line) => !isSituation(line)), ...told.filter(isSituation), ...this.held.values()];
  }
}

/** The kinds of lines that a reset undoes. */
function isSituation(line: Line): boolean {
  return (
    "flag" in line ||
    "number" in line ||
    "setSwitch" in line ||
    "drive" in line ||
    "enter" in line ||
    "leave" in line ||
    "mute" in line
  );
}
