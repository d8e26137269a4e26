/** The game drives a switch itself: like one more key of style hold that no mute silences and no lost device releases. */
import { Rule } from "../cells.js";
import type { SeatState } from "../state.js";
import { Live } from "../tables.js";
import type { Driver } from "./hooks.js";
import type { Switch } from "./switch.js";

/** The state of the game's press. */
const enum Press {
  None,
  Counts,
  /** Spent: it does not count until it is let go. */
  Spent,
}

export class DrivenSwitch extends Rule implements Driver {
  /** Reasons for which it is driven, one bit each. */
  readonly reasons = this.cells.int("drives");
  readonly press = this.cells.byte("drivePress");

  constructor(private readonly owner: Switch) {
    super(owner.cells);
  }

  drive(s: SeatState, reason: number, isOn: boolean): void {
    const { i } = s;
    if (isOn) i[this.reasons]! |= 1 << reason;
    else i[this.reasons]! &= ~(1 << reason);
    s.markSwitch(this.owner.rank);
  }

  isDown({ i }: SeatState): boolean {
    return i[this.reasons] !== 0;
  }

  keepsOn({ i, b }: SeatState): boolean {
    return i[this.reasons] !== 0 && b[this.press] === Press.Counts && b[this.owner.liveAt] !== Live.Hidden;
  }

  add(s: SeatState, byHands: number, needsHold: boolean, isBlip: boolean): number {
    const { b } = s;
    const { owner } = this;
    if (s.i[this.reasons] === 0 && !isBlip) {
      b[this.press] = Press.None;
      if (b[owner.on] === 0) owner.letGo(s);
      return byHands;
    }
    const isAble = needsHold && b[owner.liveAt] !== Live.Hidden;
    if (b[this.press] === Press.None)
      b[this.press] = (byHands === 1 ? owner.renewDriven(s, isAble) : owner.riseDriven(s, isAble))
        ? Press.Counts
        : Press.Spent;
    if (!needsHold && !owner.needs!.resumes(s)) this.spend(s);
    return byHands === 1 || (isAble && b[this.press] === Press.Counts) ? 1 : 0;
  }

  spend({ b }: SeatState): void {
    if (b[this.press] === Press.Counts) b[this.press] = Press.Spent;
  }

  renew({ b }: SeatState): void {
    b[this.press] = Press.None;
  }

  reset({ i, b }: SeatState): void {
    i[this.reasons] = 0;
    b[this.press] = Press.None;
  }
}
