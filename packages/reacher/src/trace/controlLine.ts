/**
 * A line of a trace as nearly all of them are: `{"t":120.5,"control":"KeyW","value":1,"pad":0}`, spaces allowed.
 * In: a text, and where a line begins and ends in it. Out: its entry; `undefined` for any other line, which is no fault.
 *
 * A trace has millions of these, and JSON would make an object of each only to have every field of it looked up and asked
 * for its type. May change: the names that it has met.
 */
import type { ControlEntry } from "./entry.js";

const NUMBER = "((?:0|[1-9]\\d*)(?:\\.\\d+)?(?:e-?\\d+)?)";
const NAME = '"([A-Za-z0-9]+)"';
const LINE = [
  `\\{ ?"t": ?${NUMBER}`,
  `, ?"control": ?${NAME}`,
  `, ?"value": ?(-?${NUMBER.slice(1)}`,
  `(?:, ?"pad": ?(\\d))? ?\\}`,
].join("");

export class ControlLine {
  private readonly line = new RegExp(LINE, "y");
  /** A stick's two axes come again and again. */
  private recent = "";
  private older = "";
  /** Each name as one and the same string, which takes no time to compare. */
  private readonly names = new Map<string, string>();

  read(text: string, begin: number, end: number): ControlEntry | undefined {
    const { line } = this;
    line.lastIndex = begin;
    const found = line.exec(text);
    if (found === null || line.lastIndex !== end) return undefined;
    const t = numberOf(found[1]!);
    const value = numberOf(found[3]!);
    // What is beyond all numbers is told by whoever reads the line as JSON.
    if (!(t - t === 0 && value - value === 0)) return undefined;
    const pad = found[4];
    return { t, control: this.known(found[2]!), value, pad: pad === undefined ? 0 : Number(pad) };
  }

  private known(name: string): string {
    if (name === this.older) {
      const { older } = this;
      this.older = this.recent;
      return (this.recent = older);
    }
    if (name === this.recent) return this.recent;
    this.older = this.recent;
    return (this.recent = this.look(name));
  }

  private look(name: string): string {
    let known = this.names.get(name);
    if (known === undefined) {
      // The machine keeps the name of a property once, and the names of a plan are such.
      known = Object.keys({ [name]: 0 })[0]!;
      if (this.names.size < MOST_NAMES) this.names.set(known, known);
    }
    return known;
  }
}

/** As many digits as a number holds exactly: then one division by a power of ten gives what any other reader gives. */
const MOST_DIGITS = 15;
const TENS = Array.from({ length: MOST_DIGITS + 1 }, (_, n) => Number(`1e${n}`));

const enum Char {
  Minus = 0x2d,
  Dot = 0x2e,
  Zero = 0x30,
  Nine = 0x39,
}

/** The number that a text of JSON's form is; most have few digits, which are read here in half the time. */
function numberOf(text: string): number {
  const begin = text.charCodeAt(0) === Char.Minus ? 1 : 0;
  const { length } = text;
  if (length - begin > MOST_DIGITS) return Number(text);
  let whole = 0;
  let after = 0;
  for (let at = begin; at < length; at++) {
    const char = text.charCodeAt(at);
    if (char >= Char.Zero && char <= Char.Nine) whole = whole * 10 + (char - Char.Zero);
    else if (char === Char.Dot) after = length - at - 1;
    else return Number(text);
  }
  const size = whole / TENS[after]!;
  return begin === 1 ? -size : size;
}

/** More names than there are controls: text from outside does not fill the memory. */
const MOST_NAMES = 1000;
