/**
 * Raw values as pressed and released. In: a channel's new value. Out: counts of what is down on switches and movers,
 * which are marked to be looked at again.
 */
import { strongest } from "./channels.js";
import { pressEnd, releaseEnd } from "./movement.js";
import type { SeatState } from "./state.js";
import { pressSwitch, releaseSwitch } from "./switches.js";
import type { ChannelTable, SignalTable } from "./tables.js";

/** Stores the value of a channel on one place and passes on what changed. False where nothing did. */
export function setChannel(state: SeatState, channel: ChannelTable, place: number, value: number): boolean {
  const { f } = state;
  if (f[channel.f + place] === value) return false;
  f[channel.f + place] = value;
  for (let n = 0; n < channel.signals.length; n++) updateSignal(state, channel, channel.signals[n]!);
  for (let n = place; n < channel.sticks.length; n += channel.places) state.markStick(channel.sticks[n]!);
  for (let n = 0; n < channel.analogEnds.length; n++) state.markMover(channel.analogEnds[n]!.mover);
  return true;
}

function updateSignal(state: SeatState, channel: ChannelTable, id: number): void {
  const signal = state.tables.signal[id]!;
  const value = strongest(state.f, channel.f, channel.places, signal.sign);
  if (state.i[signal.i] === 0) {
    if (value >= signal.press) rise(state, signal, id);
  } else if (value < signal.release) fall(state, signal);
}

function rise(state: SeatState, signal: SignalTable, id: number): void {
  state.i[signal.i] = 1;
  for (let n = 0; n < signal.switches.length; n++) pressSwitch(state, signal.switches[n]!, id);
  for (let n = 0; n < signal.ends.length; n++) pressEnd(state, signal.ends[n]!, signal);
}

function fall(state: SeatState, signal: SignalTable): void {
  state.i[signal.i] = 0;
  for (let n = 0; n < signal.switches.length; n++) releaseSwitch(state, signal.switches[n]!);
  for (let n = 0; n < signal.ends.length; n++) releaseEnd(state, signal.ends[n]!);
}
