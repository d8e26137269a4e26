/**
 * A lean layer that knows all that is held, bound or not, and hears any press. In: events of all controls. Out: what is held, and presses at their
 * moment. May change: what it knows of controls that the plan does not bind.
 */
import { controlsOf, type Controls } from "../controls/ownControls.js";
import { Bits, EventKind } from "../engine/queue.js";
import type { Host } from "../engine/scheduler.js";
import type { MadeTables } from "../made/madeTables.js";
import type { CheckedPlan } from "../plan/checked.js";
import type { Plan } from "../plan/types.js";
import { allHeld, heldSoon } from "../layer/held.js";
import type { Lost } from "../layer/lost.js";
import { Presses } from "../layer/presses.js";
import type { Held, Press, RawEvent, Unsubscribe } from "../layer/types.js";
import { isMotion, isOnPad, Unbound } from "../layer/unbound.js";
import { LeanLayer } from "./leanLayer.js";

export class HearingLayer extends LeanLayer implements Host {
  readonly controls: Controls;
  protected readonly unbound = new Unbound();
  protected presses: Presses | null = null;

  constructor(plan: Plan, checked: CheckedPlan, tables: MadeTables) {
    super(plan, checked, tables);
    this.controls = controlsOf(checked);
    this.scheduler.host = this;
  }

  /** For presses: the seat that they are queued with. */
  get first(): this {
    return this;
  }

  override feed(event: RawEvent): void {
    super.feed(event);
    if (this.presses !== null) this.presses.note(event);
  }

  onPress(fn: (press: Press) => void): Unsubscribe {
    this.presses ??= new Presses(this, () => this.held());
    return this.presses.listen(fn);
  }

  held(): readonly Held[] {
    return allHeld(this.unbound, [heldSoon(this.engine, this.controls, (...at) => this.padOf(...at))]);
  }

  private padOf(control: string, padIndex: number): number {
    return isOnPad(control) ? this.pads.padAt(padIndex) : 0;
  }

  /** It counts at its moment, as what is bound does. */
  protected override pass({ control, pad = 0 }: RawEvent, value: number): void {
    const { controls, scheduler } = this;
    if (!controls.isRaw(control)) {
      this.counters.ignored++;
      return;
    }
    if (isMotion(controls, control)) return;
    const padIndex = isOnPad(control) ? this.pads.indexOf(pad) : 0;
    if (padIndex < 0) {
      this.unbound.note(controls, control, pad, value);
      return;
    }
    const what = (controls.numberOf(control) << (Bits.Kind + Bits.Place)) | (padIndex << Bits.Kind);
    scheduler.addEvent(this.engine.number, what | EventKind.Control);
  }

  protected override passLoss(lost: Lost): void {
    const isPad = typeof lost === "number";
    this.presses?.lose(isPad ? "pad" : lost, isPad ? lost : 0);
  }

  /** A pad that has no place does nothing but be held. */
  protected override passUnplaced(pad: number): void {
    this.unbound.rest(pad);
  }

  hearPress(_: number, control: string, pad: number, t: number): void {
    this.presses?.tell({ control, pad, t });
  }

  hearUnbound(_: number, control: number, padIndex: number, value: number): void {
    const name = this.controls.nameOf(control);
    this.unbound.note(this.controls, name, this.padOf(name, padIndex), value);
  }

  hearLost(_: number, pad: number, what: number): void {
    this.unbound.lose(this.controls, this.engine.tables.devices, what, pad);
  }
}
