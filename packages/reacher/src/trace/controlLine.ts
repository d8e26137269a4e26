/**
 * A line of a trace as nearly all of them are: `{"t":120.5,"control":"KeyW","value":1,"pad":0}`, spaces allowed.
 * In: a text, and where a line begins and ends in it. Out: its entry; `undefined` for any other line, which is no fault.
 *
 * A trace has millions of these, and JSON would make an object of each only to have every field of it looked up and asked
 * for its type. May change: the names that it has met.
 */
import type { ControlEntry } from "./lines.js";

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
    const t = Number(found[1]);
    const value = Number(found[3]);
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

/** More names than there are controls: text from outside does not fill the memory. */
const MOST_NAMES = 1000;
