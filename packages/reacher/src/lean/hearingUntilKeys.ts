/** The same as a layer until players' keys come, of a game that hears all controls before that. In: events and calls. Out: the reading. May change: what it is. */
import type { OverrideFault, Overrides } from "../plan/players/overrides.js";
import { HearingLayer } from "./hearingLayer.js";
import {
  becomeWhole,
  takeChanges,
  type Grow,
  type Growing,
  type HandedOver,
  type Applies,
} from "./untilKeys.js";

export class HearingUntilKeys extends HearingLayer implements Growing {
  declare bring: () => Promise<Grow>;
  declare readonly applies?: Applies;
  declare readonly opens?: (overrides: Overrides) => boolean;
  overrides: Overrides | null = null;
  isWhole = false;

  setOverrides(overrides: Overrides | null): readonly OverrideFault[] {
    return takeChanges(this, overrides);
  }

  bringKeys(overrides?: Overrides | null): Promise<void> {
    return becomeWhole(this, overrides);
  }

  /** Its events of unbound controls wait in the seat's own queue. */
  handOver(): HandedOver {
    const { scheduler, counters, pads, engine, now, listeners, presses } = this;
    const unbound = this.unbound.all();
    return { scheduler, counters, pads, engine, now, listeners, unbound, waiting: [], presses };
  }
}
