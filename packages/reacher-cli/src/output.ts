/** Writing to the terminal: colours where it can, plain in a pipe. May change: nothing but what is on standard output. */
import colors from "picocolors";

const CHUNK = 1 << 16;
let waiting = "";

/** Where the command writes, and the environment that says whether in colours. */
export interface Streams {
  readonly stdout: { write(text: string): unknown; readonly isTTY?: boolean; readonly columns?: number };
  readonly stderr: { write(text: string): unknown; readonly isTTY?: boolean };
  readonly env: Readonly<Record<string, string | undefined>>;
}

let streams: Streams = process;

/** From here on it writes there. */
export function writeTo(given: Streams): void {
  streams = given;
  pc = colors.createColors(isColourful());
}

export function write(text: string): void {
  streams.stdout.write(text);
}
export function writeError(text: string): void {
  streams.stderr.write(text);
}

/** Writes a line. Lines are gathered, since a replay may have millions. */
export function print(line = ""): void {
  waiting += forTerminal(line) + "\n";
  if (waiting.length > CHUNK) flush();
}

/** How many signs fit beside each other; Infinity in a pipe, which wraps nothing. */
export function columns(): number {
  const { isTTY, columns = Infinity } = streams.stdout;
  return isTTY === true && columns >= NARROWEST ? columns : Infinity;
}
/** In a narrower terminal nothing is wrapped: every line would be a word. */
const NARROWEST = 40;

/** A text in lines of at most this many signs, broken between words. */
export function linesOf(text: string, width: number): string[] {
  if (text.length <= width) return [text];
  const lines = [""];
  for (const word of text.split(" ")) {
    const last = lines.at(-1)!;
    if (last !== "" && last.length + 1 + word.length > width) lines.push(word);
    else lines[lines.length - 1] = last === "" ? word : `${last} ${word}`;
  }
  return lines;
}

/** Prints a text after what begins its line; what does not fit stands below its beginning. `indent`: how wide the beginning is. */
export function printHung(begin: string, indent: number, text: string): void {
  linesOf(text, columns() - indent).forEach((line, n) =>
    print((n === 0 ? begin : " ".repeat(indent)) + line),
  );
}

export function printJson(row: unknown): void {
  // JSON does not escape every character that a terminal obeys.
  print(JSON.stringify(row).replace(/[\u007f-\u009f]/g, escapedSign));
}

export function flush(): void {
  if (waiting !== "") write(waiting);
  waiting = "";
}

/** Writes to standard error, for what is not the answer. */
export function note(line: string): void {
  flush();
  writeError(forTerminal(line) + "\n");
}

/** The terminal of a build service is a pipe too: only a real one, or the wish for it, gets colours. */
function isColourful(): boolean {
  const { env, stdout } = streams;
  return (
    !env["NO_COLOR"] && (Boolean(env["FORCE_COLOR"]) || (stdout.isTTY === true && env["TERM"] !== "dumb"))
  );
}
let pc = colors.createColors(isColourful());

/** A secret placeholder for the escape sequences of our own colours until a line is written. */
const OWN = `\uE000${Math.random().toString(36).slice(2)}\uE001`;

/** Control characters, and those that change the direction of text; line ends are kept. */
const OBEYED = /[\p{Cc}\u2028\u2029\u202a-\u202e\u2066-\u2069]/gu;

/** Restores our own colours; all other control characters are shown escaped as in JSON. */
export function forTerminal(text: string): string {
  return text.replace(OBEYED, (sign) => (sign === "\n" ? sign : escapedSign(sign))).replaceAll(OWN, "\u001b");
}

function escapedSign(sign: string): string {
  return `\\u${sign.charCodeAt(0).toString(16).padStart(4, "0")}`;
}

/** A colour that survives until its line is written. */
function own(color: "bold" | "dim" | "cyan" | "green" | "red" | "yellow"): (text: string) => string {
  return (text) => pc[color](forTerminal(text)).replaceAll("\u001b", OWN);
}

/** Colours by what they mean. */
export const paint = {
  title: own("bold"),
  dim: own("dim"),
  control: own("cyan"),
  action: own("bold"),
  on: own("green"),
  off: own("dim"),
  error: own("red"),
  warning: own("yellow"),
  hint: own("cyan"),
};

/** Pads a painted text: colours have no width. */
export function padEnd(
  text: string,
  width: number,
  color: (text: string) => string = (same) => same,
): string {
  return color(text) + " ".repeat(Math.max(0, width - text.length));
}

export function padStart(
  text: string,
  width: number,
  color: (text: string) => string = (same) => same,
): string {
  return " ".repeat(Math.max(0, width - text.length)) + color(text);
}

/** The widest of these. */
export function widest(texts: Iterable<string>): number {
  return Math.max(0, ...[...texts].map((text) => text.length));
}

/** `+0.71`, `-1`, `0`: two decimals at most, with its sign; what is less than that, and not nothing, by one digit. */
export function signed(value: number): string {
  const rounded = Math.round(value * 100) / 100 + 0;
  const short = String(rounded === 0 && value !== 0 ? Number(value.toPrecision(1)) : rounded);
  return value > 0 && short !== "0" ? "+" + short : short;
}

/** `3 warnings`, `1 hint`. */
export function count(number: number, what: string): string {
  return `${number} ${what}${number === 1 ? "" : "s"}`;
}
