/**
 * Merges the events that seats have handled one after the other into one order that fits each seat. In: events in order
 * for each seat. Out: the same in order of time, without duplicates for shared events. Pure.
 */

/** An event that a seat handled: the seat's number, or -1 for all; what it was, and a control's value. */
export interface Recorded {
  readonly t: number;
  readonly seat: number;
  readonly what: string;
  readonly value: number;
}

export function inOneOrder(events: readonly Recorded[]): Recorded[] {
  const sorted = [...events].sort((recorded, other) => recorded.t - other.t);
  const ordered: Recorded[] = [];
  let moment: Recorded[] = [];
  for (const event of sorted) {
    // An event that concerns all seats keeps its position.
    if (moment.length > 0 && (event.t !== moment[0]!.t || event.seat < 0)) {
      merge(moment, ordered);
      moment = [];
    }
    if (event.seat < 0) ordered.push(event);
    else moment.push(event);
  }
  merge(moment, ordered);
  return ordered;
}

/** Merges events of one moment: a key that two players share is one line, placed when both have reached it. */
function merge(events: readonly Recorded[], ordered: Recorded[]): void {
  const seats = new Map<number, Recorded[]>();
  for (const event of events) {
    const own = seats.get(event.seat);
    if (own === undefined) seats.set(event.seat, [event]);
    else own.push(event);
  }
  const queues = [...seats.values()];
  const has = (queue: readonly Recorded[], event: Recorded) =>
    queue.some((recorded) => isSame(recorded, event));
  for (let left = events.length; left > 0;) {
    const open = queues.filter((queue) => queue.length > 0);
    const next =
      open.find(([first]) => open.every((queue) => isSame(queue[0]!, first!) || !has(queue, first!))) ??
      open[0]!;
    const [event] = next;
    ordered.push(event!);
    for (const queue of open) {
      const at = queue.findIndex((recorded) => isSame(recorded, event!));
      if (at < 0) continue;
      queue.splice(at, 1);
      left--;
    }
  }
}

function isSame(recorded: Recorded, other: Recorded): boolean {
  return recorded.what === other.what && Object.is(recorded.value, other.value);
}
