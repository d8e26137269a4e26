/** A source map of a module with made code: each line leads to the statement of the rule that it was made of. In: the module. Out: JSON (ECMA-426). Pure. */
import { GenMapping, maybeAddMapping, setSourceContent, toEncodedMap } from "@jridgewell/gen-mapping";
import type { SeatText } from "./seatText.js";

export function mapOf(text: string, { create, origins }: SeatText, file: string): string {
  const map = new GenMapping({ file, sourceRoot: "reacher/" });
  const before = text.slice(0, text.indexOf(create)).split("\n").length;
  origins.forEach((origin, n) => {
    if (origin === undefined) return;
    const { module, line } = origin;
    const source = module.file.replaceAll("\\", "/").replace(/^.*\/(?=engine\/)/, "");
    const generated = { line: before + n, column: 0 };
    maybeAddMapping(map, { generated, source, original: { line, column: 0 } });
    setSourceContent(map, source, module.text);
  });
  return JSON.stringify(toEncodedMap(map));
}
