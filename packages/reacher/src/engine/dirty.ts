/** What an event has touched, in the order in which it is looked at. All of it is empty between events; seats of the same tables share it. */
import { DirtyList, NumberList } from "./lists.js";
import type { Tables } from "./tables.js";

export class DirtyLists {
  readonly sticks: DirtyList;
  readonly movements: DirtyList;
  readonly turns: DirtyList;
  /** Movements of which somebody is told. */
  readonly moved: DirtyList;
  /** What goes by a pace. */
  readonly paces: DirtyList;
  /** Switches, and those with presses that rise and fall at this moment, by rank; those that turned on or off, by number. */
  readonly switches: DirtyList;
  readonly blips: DirtyList;
  readonly changed: DirtyList;
  /** Signals that others than movements listen to: twice their number, and 1 more where they were pressed. */
  readonly signals = new NumberList();
  /** Whether anything waits beside sticks, movements and turns. */
  isStirred = false;
  /** Whether a gesture can claim less than before. */
  reviews = false;

  constructor({ sticks, movements, turns, paced, switches }: Tables) {
    this.sticks = new DirtyList(sticks.length);
    this.movements = new DirtyList(movements.length);
    this.turns = new DirtyList(turns.length);
    this.moved = new DirtyList(movements.length);
    this.paces = new DirtyList(paced.length);
    this.switches = new DirtyList(switches.length);
    this.changed = new DirtyList(switches.length);
    this.blips = new DirtyList(switches.length);
  }

  /** Forgets what an event that was broken off has left. */
  clear(): void {
    for (const list of [
      this.sticks,
      this.movements,
      this.turns,
      this.moved,
      this.paces,
      this.switches,
      this.changed,
      this.blips,
    ])
      list.clear();
    this.signals.count = 0;
    this.isStirred = this.reviews = false;
  }
}
