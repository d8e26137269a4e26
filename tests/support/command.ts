/** The built command, run in this process: it starts once, however often it is called. A worker has it, so that a call can be waited for. */
import { join } from "node:path";
import { MessageChannel, receiveMessageOnPort, Worker } from "node:worker_threads";

const MAIN = join(__dirname, "../../packages/reacher-cli/dist/bundle/main.cjs");

const CODE = `
const { parentPort, workerData } = require("node:worker_threads");
const { main } = require(workerData);
parentPort.on("message", async ({ args, env, columns, port, done }) => {
  let stdout = "";
  let stderr = "";
  const streams = {
    stdout: { write: (text) => (stdout += text), ...(columns && { isTTY: true, columns }) },
    stderr: { write: (text) => (stderr += text) },
    env,
  };
  let status;
  try {
    status = await main(args, streams);
  } catch (error) {
    stderr += error.stack;
    status = 70;
  }
  port.postMessage({ stdout, stderr, status });
  Atomics.store(done, 0, 1);
  Atomics.notify(done, 0);
});`;

let worker: Worker | undefined;

/** What the command prints, and its exit code. */
export interface Answer {
  readonly stdout: string;
  readonly stderr: string;
  readonly status: number;
}

export function runCommand(
  args: readonly string[],
  env: Readonly<Record<string, string | undefined>>,
  /** Of a terminal this wide; a pipe without. */
  columns?: number,
): Answer {
  worker ??= new Worker(CODE, { eval: true, workerData: MAIN });
  worker.unref();
  const { port1, port2 } = new MessageChannel();
  const done = new Int32Array(new SharedArrayBuffer(4));
  worker.postMessage({ args, env, columns, port: port2, done }, [port2]);
  Atomics.wait(done, 0, 0, 60_000);
  const answer = receiveMessageOnPort(port1)?.message as Answer | undefined;
  port1.close();
  if (answer === undefined) throw new Error(`the command does not answer: ${args.join(" ")}`);
  return answer;
}
