/**
 * Raw values as pressed and released. In: a channel whose value has changed. Out: counts of what is down on switches and
 * movers, which are marked to be looked at again.
 */
import { strongest } from "./channels.js";
import { touchKeys, pressEnd, releaseEnd } from "./movement.js";
import type { SeatState } from "./state.js";
import { pressSwitch, releaseSwitch } from "./switches.js";
import type { ChannelTable, SignalTable } from "./tables.js";

/** Passes on that a channel has another value on one place. */
export function spreadChannel(state: SeatState, channel: ChannelTable, place: number): void {
  const { signals, sticks, analogEnds } = channel;
  for (let n = 0; n < signals.length; n++) {
    const signal = signals[n]!;
    const value = strongest(state.f, channel.f, channel.places, signal.sign);
    if (state.i[signal.i] === 0) {
      if (value >= signal.press) rise(state, signal);
    } else if (value < signal.release) fall(state, signal);
  }
  for (let n = place; n < sticks.length; n += channel.places) state.markStick(sticks[n]!);
  for (let n = 0; n < analogEnds.length; n++) touchKeys(state, analogEnds[n]!.mover);
}

function rise(state: SeatState, signal: SignalTable): void {
  const { switches, ends } = signal;
  state.i[signal.i] = 1;
  for (let n = 0; n < switches.length; n++) pressSwitch(state, switches[n]!, signal.id);
  for (let n = 0; n < ends.length; n++) pressEnd(state, ends[n]!, signal.device);
}

function fall(state: SeatState, signal: SignalTable): void {
  const { switches, ends } = signal;
  state.i[signal.i] = 0;
  for (let n = 0; n < switches.length; n++) releaseSwitch(state, switches[n]!);
  for (let n = 0; n < ends.length; n++) releaseEnd(state, ends[n]!);
}
