/** Reads trace files line by line, however long they are. In: a path. Out: entries, or errors that name the file and the line. */
import { createReadStream, ReadStream } from "node:fs";
import { readFile, stat } from "node:fs/promises";
import { createInterface } from "node:readline";
import { Readable } from "node:stream";
import { TraceError, TraceReader, type TraceEntry, type TraceHead } from "reacher/trace";
import { fileFault, UseError } from "./faults.js";
import { isReport, reportIn } from "./reportFile.js";
import { readPiped, STDIN } from "./stdin.js";

/** How often progress is shown, and how long a reading takes before it is, in ms. */
const SHOWN_EACH = 200;
const LONG_READ = 1000;

/** Gives each entry of a trace to `take`, and returns its head; a long one shows its progress on a terminal. @throws UseError */
export async function readTraceFile(file: string, take: (entry: TraceEntry) => void): Promise<TraceHead> {
  if (await isReport(file)) return takeReport(file, take);
  const reader = new TraceReader();
  const isPiped = file === STDIN;
  const stream = isPiped ? Readable.from([await readPiped()]) : createReadStream(file, { encoding: "utf8" });
  const progress = new Progress(file, () => (stream instanceof ReadStream ? stream.bytesRead : 0));
  try {
    if (!isPiped) await progress.start();
    for await (const line of createInterface({ input: stream, crlfDelay: Infinity })) {
      const entry = reader.read(reader.line === 0 ? line.replace(/^\uFEFF/, "") : line);
      if (entry !== undefined) take(entry);
    }
    return reader.finish();
  } catch (error) {
    if (error instanceof TraceError) throw new UseError(`${file}: ${error.message}`);
    if ((error as NodeJS.ErrnoException).code !== undefined) throw fileFault(file, error);
    throw error;
  } finally {
    progress.end();
    stream.destroy();
  }
}

/** The trace of a report. */
async function takeReport(file: string, take: (entry: TraceEntry) => void): Promise<TraceHead> {
  const { plan, trace } = reportIn(file, file === STDIN ? await readPiped() : await readFile(file, "utf8"));
  for (const entry of trace) take(entry);
  return { reacherTrace: 1, ...(plan.name !== undefined && { plan: plan.name }) };
}

/** One line on standard error that is written over; nothing where that is no terminal. */
class Progress {
  private timer: NodeJS.Timeout | undefined;
  private shown = false;

  constructor(
    private readonly file: string,
    private readonly done: () => number,
  ) {}

  async start(): Promise<void> {
    if (!process.stderr.isTTY) return;
    const { size } = await stat(this.file);
    const began = Date.now();
    this.timer = setInterval(() => {
      if (Date.now() - began < LONG_READ) return;
      this.shown = true;
      const percent = Math.floor((100 * this.done()) / Math.max(size, 1));
      process.stderr.write(`\r${this.file}: ${percent} %`);
    }, SHOWN_EACH);
  }

  end(): void {
    clearInterval(this.timer);
    if (this.shown) process.stderr.write("\r\u001b[K");
  }
}
