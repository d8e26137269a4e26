/** Reads trace files line by line, however long they are. In: a path. Out: entries, or errors that name the file and the line. */
import { createReadStream } from "node:fs";
import { createInterface } from "node:readline";
import { TraceError, TraceReader, type TraceEntry, type TraceHead } from "reacher/trace";
import { fileFault, UseError } from "./faults.js";

/** Gives each entry of a trace to `take`, and returns its head. @throws UseError */
export async function readTraceFile(file: string, take: (entry: TraceEntry) => void): Promise<TraceHead> {
  const reader = new TraceReader();
  const stream = createReadStream(file, { encoding: "utf8" });
  try {
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
    stream.destroy();
  }
}
