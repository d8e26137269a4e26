/** Finds out how each channel's events can be handled: step by step, or in one go. In: tables. Out: the same, with their ways. */
import { listOf } from "../lists.js";
import { Way, type ChannelTable, type MoverTable, type SignalTable, type StickTable } from "../tables.js";

/** A table while it is being made. */
export type Growing<T> = { -readonly [K in keyof T]: T[K] extends readonly (infer E)[] ? E[] : T[K] };

interface Made {
  readonly channel: readonly Growing<ChannelTable>[];
  readonly signal: readonly Growing<SignalTable>[];
  readonly stick: readonly StickTable[];
  readonly mover: readonly MoverTable[];
}

/** Channels that need more than to move sticks, or to be pressed and released. */
export function markSpecial(channels: readonly Growing<ChannelTable>[]): void {
  for (const channel of channels) {
    const { bounce, isAxis, signals, analogEnds } = channel;
    channel.special ||= bounce >= 0 || (isAxis && signals.length + analogEnds.length > 0);
  }
}

/** Which channels have nothing to do but what `lane.ts` can do in one go. */
export function findWays({ channel: channels, signal, stick, mover }: Made): void {
  for (const one of signal)
    one.movesOnly = one.entries.length + one.gestures.length + one.breaks.length === 0;
  for (const channel of channels) {
    const { sticks, signals, analogEnds, special, isAxis, places } = channel;
    const laneSticks = sticks.map((id) => stick[id]!);
    const movers = new Set([
      ...laneSticks.map((one) => one.mover),
      ...signals.flatMap(({ ends }) => ends.map((end) => end.mover)),
    ]);
    const able =
      !special &&
      analogEnds.length === 0 &&
      signals.every(({ direct, ends }) => direct && ends.every((end) => end.direction?.direct !== false)) &&
      [...movers].every((id) => id >= 0 && mover[id]!.keyVectors !== null);
    const fits = isAxis ? isWhole(channels, channel) : places === 1;
    if (!able || !fits) continue;
    channel.way = isAxis ? Way.Stick : Way.Key;
    channel.laneSticks = listOf(laneSticks);
    channel.laneMovers = listOf([...movers].map((id) => mover[id]!));
  }
}

/** Whether an axis moves the same sticks as the other axis does, and nothing else. */
function isWhole(channels: readonly ChannelTable[], { other, sticks }: ChannelTable): boolean {
  const beside = channels[other];
  return beside !== undefined && !beside.special && beside.sticks.join(" ") === sticks.join(" ");
}
