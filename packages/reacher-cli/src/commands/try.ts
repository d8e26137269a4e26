/**
 * `reacher try`: serves the workbench for one plan. In: a plan's file, traces. Out: an address. May change: the plan's file, as its
 * user saves it, and new traces beside it.
 */
import { randomBytes, createHash, timingSafeEqual } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { createServer, type IncomingMessage, type Server, type ServerResponse } from "node:http";
import { basename, dirname, join, resolve } from "node:path";
import { spawn } from "node:child_process";
import { fileURLToPath } from "node:url";
import sirv from "sirv";
import writeFileAtomic from "write-file-atomic";
import { parseTrace, type Report } from "reacher/trace";
import { STDIN } from "../stdin.js";
import { checkPlan } from "reacher/check";
import { fileFault, UseError } from "../faults.js";
import { mayWrite } from "../made.js";
import { note, print, flush } from "../output.js";
import { reportIn, textIsReport } from "../reportFile.js";
import { watchSettled } from "../watching.js";
import { jsonSchema } from "./schema.js";

export interface TryOptions {
  readonly port?: number;
  readonly open?: boolean;
}

/** Only this machine's own pages. */
const HOST = "127.0.0.1";
/** Far beyond any plan and any ten minutes of play. */
const LARGEST = 64_000_000;
/** The names that the page's files have. */
const OWN_FILE = /^(\/[\w@-][\w@.-]*)+$/;

/** Serves until it is interrupted. @throws UseError if a file cannot be read, or the port is taken */
export async function tryPlan(file: string, traces: readonly string[], options: TryOptions): Promise<number> {
  if (file === STDIN || file.endsWith(".jsonc"))
    throw new UseError(
      `the workbench writes what it changes, and ${file === STDIN ? "standard input is no file" : "would lose the comments"}; give it a .json file`,
    );
  const bench = new Bench(resolve(file), traces);
  const server = createServer((request, response) => void bench.answer(request, response));
  const address = await listen(server, options.port ?? 0).catch((error: unknown) => {
    // The file watcher would keep the command alive.
    bench.close();
    throw error;
  });
  bench.address = address;
  print(`The workbench on ${file}: ${address}`);
  print("Ctrl+C ends it.");
  flush();
  if (options.open === true) openBrowser(address);
  await new Promise<void>((done) => {
    process.once("SIGINT", done);
    process.once("SIGTERM", done);
  });
  bench.close();
  server.close();
  server.closeAllConnections();
  return 0;
}

async function listen(server: Server, port: number): Promise<string> {
  await new Promise<void>((done, failed) => {
    server.once("error", (error: NodeJS.ErrnoException) =>
      failed(
        error.code === "EADDRINUSE"
          ? new UseError(
              `--port ${port}: something else listens there already; leave --port out to take a free one`,
            )
          : error,
      ),
    );
    server.listen(port, HOST, done);
  });
  return `http://${HOST}:${(server.address() as { port: number }).port}/`;
}

/** A plan that does not exist yet begins with this. */
const SMALL_PLAN = `{
  "reacherPlan": 1,
  "name": "new-plan",
  "actions": {
    "move": {
      "kind": "vector",
      "from": {
        "main": { "up": "KeyW", "left": "KeyA", "down": "KeyS", "right": "KeyD" },
        "pad": "PadLeftStick"
      },
      "pace": { "unit": "m/s", "base": 3, "rules": [{ "when": "run", "set": 6 }] }
    },
    "run": { "kind": "switch", "from": { "main": "ShiftLeft", "pad": "PadSouth" } },
    "dash": { "kind": "switch", "from": { "main": { "taps": 2, "of": "move.each", "gapMs": 220 } } }
  }
}
`;

/** Answers the page's requests. May change: the plan's file and its version, new traces. */
class Bench {
  address = "";
  private readonly token = randomBytes(24).toString("base64url");
  private readonly files: ReturnType<typeof sirv>;
  private readonly page: string;
  private text: string;
  private readonly listeners = new Set<ServerResponse>();
  private readonly unwatch: () => void;
  private readonly traces: readonly { readonly name: string; readonly text: string }[];

  private readonly file: string;

  constructor(file: string, traces: readonly string[]) {
    const folder = fileURLToPath(new URL("../workbench/", import.meta.url));
    this.files = sirv(folder, { etag: true });
    try {
      this.page = readFileSync(join(folder, "index.html"), "utf8");
    } catch {
      throw new UseError("the workbench is not built; npm run build builds it");
    }
    const given = readOrBegin(file);
    const report = textIsReport(given) ? reportIn(file, given) : undefined;
    // A report stays as it is: what is saved is a plan of its own.
    this.file = report === undefined ? file : freeName(file);
    this.text = report === undefined ? given : `${JSON.stringify(report.plan, null, 2)}\n`;
    this.traces = [...(report === undefined ? [] : [file]), ...traces].map((trace) => ({
      name: basename(trace),
      text: readTrace(trace),
    }));
    this.unwatch = watchSettled(this.file, () => this.look());
  }

  close(): void {
    this.unwatch();
    for (const listener of this.listeners) listener.end();
  }

  async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    response.setHeader("x-content-type-options", "nosniff");
    response.setHeader("referrer-policy", "no-referrer");
    const { host } = new URL(this.address);
    const given = String(request.headers.host);
    // A request under another host name comes from another site.
    if (given !== host) {
      const isLocal = given === host.replace(HOST, "localhost");
      return refuse(response, 403, isLocal ? `open ${this.address} instead` : "this host is not served");
    }
    const { method, url = "/" } = request;
    // Taken as it stands: a path that begins with two slashes would be another host's address.
    const pathname = url.split("?")[0]!;
    try {
      if (pathname.startsWith("/api/")) await this.answerCall(`${method} ${pathname}`, request, response);
      else if (pathname === "/" || pathname === "/index.html") this.sendPage(response);
      else if (!OWN_FILE.test(pathname)) refuse(response, 404, "there is no such file");
      else this.files(request, response, () => refuse(response, 404, "there is no such file"));
    } catch (error) {
      if (!response.headersSent) refuse(response, 500, (error as Error).message);
      else response.destroy();
    }
  }

  private async answerCall(call: string, request: IncomingMessage, response: ServerResponse): Promise<void> {
    if (call === "GET /api/plan") return send(response, 200, this.served());
    if (call === "GET /api/changes") return this.listenTo(response);
    if (call !== "PUT /api/plan" && call !== "POST /api/traces")
      return refuse(response, 404, "there is no such call");
    const fault = this.mayWrite(request);
    if (fault !== undefined) return refuse(response, 403, fault);
    const body = await readBody(request);
    if (body === undefined) return refuse(response, 400, "the request is no JSON object with a text");
    if (call === "PUT /api/plan") this.savePlan(body, response);
    else this.saveTrace(body.text, response);
  }

  /** Only the page itself may write: it has the token and the right origin. */
  private mayWrite({ headers }: IncomingMessage): string | undefined {
    if (headers.origin !== undefined && `${headers.origin}/` !== this.address)
      return "writing is for the workbench's own page";
    const given = createHash("sha256")
      .update(String(headers["x-reacher-token"] ?? ""))
      .digest();
    const wanted = createHash("sha256").update(this.token).digest();
    return timingSafeEqual(given, wanted)
      ? undefined
      : "the page's token is missing or old; load the page again";
  }

  private served() {
    return {
      file: basename(this.file),
      // Of this run of the command: a page that outlived another one takes it from here. Other sites may not read this.
      token: this.token,
      text: this.text,
      isNew: !existsSync(this.file),
      version: versionOf(this.text),
      traces: this.traces,
      schema: jsonSchema(),
    };
  }

  private savePlan({ text, version }: Body, response: ServerResponse): void {
    this.look();
    if (version !== versionOf(this.text))
      return send(response, 409, { text: this.text, version: versionOf(this.text) });
    let findings: readonly { readonly severity: string; readonly message: string }[];
    try {
      ({ findings } = checkPlan(JSON.parse(text)));
    } catch (error) {
      return refuse(response, 422, `not JSON: ${(error as Error).message}`);
    }
    const wrong = findings.find(({ severity }) => severity === "error");
    if (wrong !== undefined) return refuse(response, 422, `the plan has errors: ${wrong.message}`);
    try {
      mayWrite(this.file);
    } catch (error) {
      return refuse(response, 403, (error as Error).message);
    }
    writeFileAtomic.sync(this.file, text);
    this.text = text;
    send(response, 200, { version: versionOf(text) });
    note(`saved ${this.file}`);
  }

  private saveTrace(text: string, response: ServerResponse): void {
    try {
      parseTrace(text);
    } catch (error) {
      return refuse(response, 422, (error as Error).message);
    }
    const stem = basename(this.file).replace(/(\.plan)?\.json$/, "");
    const day = new Date().toISOString().slice(0, 10);
    for (let n = 1; ; n++) {
      const name = `${stem}-${day}-${n}.trace.jsonl`;
      try {
        // Never over a file that is there.
        writeFileSync(join(dirname(this.file), name), text, { flag: "wx" });
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code === "EEXIST") continue;
        throw fileFault(name, error);
      }
      note(`saved ${name}`);
      return send(response, 200, { name });
    }
  }

  /** The page, with its token and a policy that lets nothing else in. */
  private sendPage(response: ServerResponse): void {
    const nonce = randomBytes(16).toString("base64");
    response.setHeader(
      "content-security-policy",
      `default-src 'none'; script-src 'self'; style-src 'self' 'nonce-${nonce}'; img-src 'self' data: blob:; connect-src 'self'; ` +
        "worker-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'",
    );
    response.setHeader("content-type", "text/html; charset=utf-8");
    response.setHeader("cache-control", "no-store");
    const own = `<meta name="reacher-token" content="${this.token}" /><meta property="csp-nonce" nonce="${nonce}" content="${nonce}" />`;
    response.end(this.page.replace("<head>", `<head>${own}`));
  }

  private listenTo(response: ServerResponse): void {
    response.writeHead(200, { "content-type": "text/event-stream", "cache-control": "no-store" });
    response.write(": listening\n\n");
    this.listeners.add(response);
    response.on("close", () => this.listeners.delete(response));
  }

  /** Checks whether the file has changed, and notifies the pages if so. */
  private look(): void {
    let text: string;
    try {
      text = readFileSync(this.file, "utf8");
    } catch {
      // It is being renamed, was deleted, or does not exist yet: the page's text is the only one, and saving writes it anew.
      return;
    }
    if (text === this.text) return;
    this.text = text;
    const told = JSON.stringify({ text, version: versionOf(text) });
    for (const listener of this.listeners) listener.write(`data: ${told}\n\n`);
  }
}

interface Body {
  readonly text: string;
  readonly version?: string;
}

async function readBody(request: IncomingMessage): Promise<Body | undefined> {
  const parts: Buffer[] = [];
  let length = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    length += part.length;
    if (length > LARGEST) return undefined;
    parts.push(part);
  }
  try {
    const body = JSON.parse(Buffer.concat(parts).toString("utf8")) as Partial<Body> | null;
    return typeof body?.text === "string" ? (body as Body) : undefined;
  } catch {
    return undefined;
  }
}

function readOrBegin(file: string): string {
  try {
    return readFileSync(file, "utf8");
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== "ENOENT") throw fileFault(file, error);
    note(`${file} does not exist yet: it begins with a small plan, and is written when you save`);
    return SMALL_PLAN;
  }
}

function readTrace(file: string): string {
  let text: string;
  try {
    text = readFileSync(file, "utf8");
  } catch (error) {
    throw fileFault(file, error);
  }
  if (textIsReport(text)) return traceOf(reportIn(file, text));
  try {
    parseTrace(text);
  } catch (error) {
    throw new UseError(`${file}: ${(error as Error).message}`);
  }
  return text;
}

/** A report's lines, as a trace. */
function traceOf({ plan, about, trace }: Report): string {
  const head = { reacherTrace: 1, ...(plan.name !== undefined && { plan: plan.name }), note: about };
  return [head, ...trace].map((line) => `${JSON.stringify(line)}\n`).join("");
}

/** A plan beside a report, whose name nothing has yet: `jump.plan.json` of `jump.report.json`. */
function freeName(report: string): string {
  const stem = report.replace(/(\.report)?\.json$/, "");
  for (let n = 1; ; n++) {
    const name = `${stem}${n === 1 ? "" : `-${n}`}.plan.json`;
    if (!existsSync(name)) return name;
  }
}

function versionOf(text: string): string {
  return createHash("sha256").update(text).digest("hex");
}

function send(response: ServerResponse, status: number, body: object): void {
  response.writeHead(status, { "content-type": "application/json", "cache-control": "no-store" });
  response.end(JSON.stringify(body));
}

function refuse(response: ServerResponse, status: number, message: string): void {
  response.writeHead(status, { "content-type": "text/plain; charset=utf-8" });
  response.end(message);
}

/** Uses the system's own opener; without one, the address is on the screen. */
function openBrowser(address: string): void {
  const opener = { darwin: "open", win32: "explorer" }[process.platform as string] ?? "xdg-open";
  spawn(opener, [address], { stdio: "ignore", detached: true })
    .on("error", () => note("no browser could be opened; open the address yourself"))
    .unref();
}
