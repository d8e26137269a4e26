/** What was made in the passes before. A function is as it would be made now where nothing is new of what it met. May change: itself. */
import { Met, type Made } from "./frames.js";

export class Kept {
  /** What is known since: cells that are constants, fields that are variables, functions that stand where they are called. */
  news = new Met();
  private all = new Map<string, Made>();
  private isNone = false;

  /** Nothing stays. */
  none(): void {
    this.isNone = true;
  }

  /** Keeps what is not concerned by the news. */
  keep(made: ReadonlyMap<string, Made>): void {
    this.all = new Map(this.isNone ? [] : made);
    const callers = new Map<string, string[]>();
    for (const [key, { met }] of this.all)
      for (const other of met.of("made")) {
        const known = callers.get(other);
        if (known === undefined) callers.set(other, [key]);
        else known.push(key);
      }
    const open = [...this.all].filter(([, { met }]) => this.concerns(met)).map(([key]) => key);
    for (const key of this.news.of("made")) open.push(...(callers.get(key) ?? []));
    for (let key = open.pop(); key !== undefined; key = open.pop())
      if (this.all.delete(key)) open.push(...(callers.get(key) ?? []));
    this.news = new Met();
    this.isNone = false;
  }

  private concerns(met: Met): boolean {
    const [cells, fields] = [this.news.of("reads"), this.news.of("fields")];
    return (
      meets(cells, met.of("reads")) || meets(cells, met.of("restarts")) || meets(fields, met.of("fields"))
    );
  }

  /** Hands over a function that stays, with those that it met. */
  take(key: string, to: Map<string, Made>): Made | undefined {
    const made = this.all.get(key);
    if (made === undefined || to.has(key)) return made;
    to.set(key, made);
    for (const other of made.met.of("made")) this.take(other, to);
    return made;
  }
}

function meets(some: ReadonlySet<string>, others: ReadonlySet<string>): boolean {
  const [few, many] = some.size < others.size ? [some, others] : [others, some];
  for (const one of few) if (many.has(one)) return true;
  return false;
}
