/**
 * A fast reader for the usual line of a trace: `{"t":120.5,"control":"KeyW","value":1,"pad":0}`, spaces allowed after commas and colons.
 * In: a text, and where a line begins and ends in it. Out: its entry; `undefined` for any other line, which is not an error.
 *
 * A trace has millions of these, and `JSON.parse` would make an object of each whose every field then has to be looked up and
 * checked. This reads it character by character. May change: its position, and the names that it has met.
 */
import type { ControlEntry } from "./entry.js";

const enum Char {
  Space = 0x20,
  Quote = 0x22,
  Comma = 0x2c,
  Minus = 0x2d,
  Dot = 0x2e,
  Zero = 0x30,
  Nine = 0x39,
  Colon = 0x3a,
  Open = 0x7b,
  Close = 0x7d,
}

/** As many digits as a double holds exactly: then one division by a power of ten is correctly rounded. */
const MOST_DIGITS = 15;
const TENS = Float64Array.from({ length: MOST_DIGITS + 1 }, (_, n) => Number(`1e${n}`));
/** More names than there are controls, so that text from outside cannot fill the memory. */
const MOST_NAMES = 1000;

export class ControlLine {
  private text = "";
  private at = 0;
  private end = 0;
  /** The last number that was read. */
  private readonly number = new Float64Array(1);
  /** The last two names, since a stick's axes alternate. */
  private recent = "";
  private older = "";
  /** Interned names, which compare by reference. */
  private readonly names = new Map<string, string>();

  read(text: string, begin: number, end: number): ControlEntry | undefined {
    this.text = text;
    this.at = begin;
    this.end = end;
    const { number } = this;
    if (!this.skip(Char.Open) || !this.field("t") || !this.readNumber()) return undefined;
    const t = number[0]!;
    if (t < 0 || !this.skip(Char.Comma) || !this.field("control")) return undefined;
    const control = this.name();
    if (control === undefined || !this.skip(Char.Comma) || !this.field("value") || !this.readNumber())
      return undefined;
    const value = number[0]!;
    let pad = 0;
    if (this.skip(Char.Comma)) {
      if (!this.field("pad") || !this.readNumber()) return undefined;
      pad = number[0]!;
      if (!Number.isInteger(pad) || pad < 0) return undefined;
    }
    if (!this.skip(Char.Close) || this.at !== end) return undefined;
    return { t, control, value, pad };
  }

  /** Skips one character, and a space after it or before a closing brace. */
  private skip(char: Char): boolean {
    const { text } = this;
    let { at } = this;
    if (text.charCodeAt(at) === Char.Space && char === Char.Close) at++;
    if (at >= this.end || text.charCodeAt(at) !== char) return false;
    this.at = at + 1;
    if (char !== Char.Close && text.charCodeAt(this.at) === Char.Space) this.at++;
    return true;
  }

  /** Reads a field's name in quotes, and its colon. */
  private field(name: string): boolean {
    const { text, at } = this;
    const { length } = name;
    if (text.charCodeAt(at) !== Char.Quote || text.charCodeAt(at + length + 1) !== Char.Quote) return false;
    for (let n = 0; n < length; n++) if (text.charCodeAt(at + 1 + n) !== name.charCodeAt(n)) return false;
    this.at = at + length + 2;
    return this.skip(Char.Colon);
  }

  /** Reads a number in JSON's form, without an exponent; one with too many digits is left to `JSON.parse`. */
  private readNumber(): boolean {
    const { text, end } = this;
    let { at } = this;
    const isBelow = text.charCodeAt(at) === Char.Minus;
    if (isBelow) at++;
    const first = at;
    let whole = 0;
    let dot = -1;
    for (; at < end; at++) {
      const char = text.charCodeAt(at);
      if (char >= Char.Zero && char <= Char.Nine) whole = whole * 10 + (char - Char.Zero);
      else if (char === Char.Dot && dot < 0) dot = at;
      else break;
    }
    const digits = at - first - (dot < 0 ? 0 : 1);
    const isWhole = dot < 0 ? digits > 0 : dot > first && at > dot + 1;
    const hasLead = text.charCodeAt(first) === Char.Zero && (dot < 0 ? digits > 1 : dot > first + 1);
    if (!isWhole || hasLead || digits > MOST_DIGITS) return false;
    const size = dot < 0 ? whole : whole / TENS[at - dot - 1]!;
    this.number[0] = isBelow ? -size : size;
    this.at = at;
    return true;
  }

  /** Reads a control's name in quotes: letters and digits only. */
  private name(): string | undefined {
    const { text, at } = this;
    if (text.charCodeAt(at) !== Char.Quote) return undefined;
    const { recent, older } = this;
    if (this.isNamed(older, at + 1)) {
      this.older = recent;
      return (this.recent = older);
    }
    return this.isNamed(recent, at + 1) ? recent : this.newName(at + 1);
  }

  /** Reads a name if it is this known one. */
  private isNamed(name: string, at: number): boolean {
    const { text } = this;
    const { length } = name;
    if (length === 0 || text.charCodeAt(at + length) !== Char.Quote) return false;
    for (let n = 0; n < length; n++) if (text.charCodeAt(at + n) !== name.charCodeAt(n)) return false;
    this.at = at + length + 1;
    return true;
  }

  private newName(begin: number): string | undefined {
    const end = this.text.indexOf('"', begin);
    const name = this.text.slice(begin, end);
    if (end < 0 || end > this.end || !/^[A-Za-z0-9]+$/.test(name)) return undefined;
    this.at = end + 1;
    this.older = this.recent;
    return (this.recent = this.known(name));
  }

  private known(name: string): string {
    let known = this.names.get(name);
    if (known === undefined) {
      // V8 interns property names, and a plan's names are such.
      known = Object.keys({ [name]: 0 })[0]!;
      if (this.names.size < MOST_NAMES) this.names.set(known, known);
    }
    return known;
  }
}
