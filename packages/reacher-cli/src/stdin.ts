/** What is piped in, in place of a file: `-`. Read once a process, since it comes once. */
import { text } from "node:stream/consumers";

export const STDIN = "-";

let piped: Promise<string> | undefined;

export function readPiped(): Promise<string> {
  return (piped ??= text(process.stdin));
}
