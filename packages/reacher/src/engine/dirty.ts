/** What an event has touched, in the order in which it is evaluated. Empty between events; shared by the seats with the same tables. */
import { DirtyList, NumberList } from "./lists.js";
import type { Tables } from "./tables.js";

export class DirtyLists {
  readonly sticks: DirtyList;
  readonly movements: DirtyList;
  readonly turns: DirtyList;
  /** Movements whose change is announced to watchers. */
  readonly moved: DirtyList;
  /** Movements whose pace may have changed. */
  readonly paces: DirtyList;
  /** Switches, and those with a press that rises and falls at this moment, by rank; switches that turned on or off, by number. */
  readonly switches: DirtyList;
  readonly instantPresses: DirtyList;
  /** Switches that are evaluated again once the event so far is announced, by rank. */
  readonly later: DirtyList;
  readonly changed: DirtyList;
  /** Signals that changed and have listeners other than movements: twice their number, plus 1 if pressed. */
  readonly signals = new NumberList();
  /** Whether anything besides sticks, movements and turns is marked. */
  hasWork = false;
  /** Whether a gesture may have given up a claim. */
  reviews = false;

  constructor({ sticks, movements, turns, paced, switches }: Tables) {
    this.sticks = new DirtyList(sticks.length);
    this.movements = new DirtyList(movements.length);
    this.turns = new DirtyList(turns.length);
    this.moved = new DirtyList(movements.length);
    this.paces = new DirtyList(paced.length);
    this.switches = new DirtyList(switches.length);
    this.later = new DirtyList(switches.length);
    this.changed = new DirtyList(switches.length);
    this.instantPresses = new DirtyList(switches.length);
  }

  /** Drops what an interrupted event has left behind. */
  clear(): void {
    for (const list of [
      this.sticks,
      this.movements,
      this.turns,
      this.moved,
      this.paces,
      this.switches,
      this.changed,
      this.later,
      this.instantPresses,
    ])
      list.clear();
    this.signals.count = 0;
    this.hasWork = this.reviews = false;
  }
}
