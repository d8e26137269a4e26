/** The page's requests to the command that serves it: the plan's file, traces, and changes from elsewhere. */

import { download } from "./download";

export interface Served {
  /** The name of the plan's file. */
  readonly file: string;
  /** What lets a page write. */
  readonly token: string;
  readonly text: string;
  /** Whether the file does not exist yet. */
  readonly isNew: boolean;
  /** The version of the file, so that nobody overwrites changes they have not seen. */
  readonly version: string;
  readonly traces: readonly { readonly name: string; readonly text: string }[];
  readonly schema: object;
}

export type Saved =
  { readonly version: string } | { readonly conflict: { readonly text: string; readonly version: string } };

/** Without a command: a plan in the page's own address, which is not written anywhere but to a download. */
const PLAN = /^#plan=([\w-]+)$/;

/** The plan of the page's address. */
export function linkedPlan(): string | undefined {
  const [, text] = PLAN.exec(location.hash) ?? [];
  if (text === undefined) return undefined;
  const bytes = Uint8Array.from(atob(text.replaceAll("-", "+").replaceAll("_", "/")), (one) =>
    one.charCodeAt(0),
  );
  return new TextDecoder().decode(bytes);
}

/** Of the command that answers now: it may have been started anew since the page was loaded. */
let token = "";

export async function readServed(): Promise<Served> {
  const text = linkedPlan();
  if (text !== undefined) {
    const schema = (await (await fetch("plan.schema.json")).json()) as object;
    return { file: "recipe.plan.json", token, text, isNew: false, version: "0", traces: [], schema };
  }
  const served = (await (await fetch("/api/plan")).json()) as Served;
  token = served.token;
  return served;
}

/** Writes the plan's file, unless it was changed since `version`. @throws Error with the server's message */
export async function savePlan(text: string, version: string): Promise<Saved> {
  if (linkedPlan() !== undefined) {
    download("recipe.plan.json", "application/json", text);
    return { version };
  }
  const response = await send("PUT", "/api/plan", { text, version });
  if (response.status === 409)
    return { conflict: (await response.json()) as { text: string; version: string } };
  return (await answer(response)) as { version: string };
}

/** Writes a new trace beside the plan and returns its name. @throws Error with the server's message */
export async function saveTrace(text: string): Promise<string> {
  if (linkedPlan() !== undefined) {
    download("recipe.trace.jsonl", "application/jsonl", text);
    return "recipe.trace.jsonl";
  }
  const { name } = (await answer(await send("POST", "/api/traces", { text }))) as { name: string };
  return name;
}

/**
 * Tells each change of the plan's file, and whether the command answers. One that was ended and started again at the same address
 * is found again by itself. Returns a function that stops it.
 */
export function watchFile(
  onChange: (text: string, version: string) => void,
  onServer: (isThere: boolean) => void,
): () => void {
  if (linkedPlan() !== undefined) return () => {};
  const source = new EventSource("/api/changes");
  let isLost = false;
  source.onerror = () => {
    isLost = true;
    onServer(false);
  };
  source.onopen = () => {
    if (!isLost) return;
    void readServed().then(({ text, version }) => {
      isLost = false;
      onServer(true);
      onChange(text, version);
    });
  };
  source.onmessage = ({ data }: MessageEvent<string>) => {
    const { text, version } = JSON.parse(data) as { text: string; version: string };
    onChange(text, version);
  };
  return () => source.close();
}

function send(method: string, address: string, body: object): Promise<Response> {
  return fetch(address, {
    method,
    headers: { "content-type": "application/json", "x-reacher-token": token },
    body: JSON.stringify(body),
  });
}

async function answer(response: Response): Promise<unknown> {
  if (response.ok) return response.json();
  throw new Error((await response.text()) || `the command answers ${response.status}`);
}
