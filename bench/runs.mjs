/** What is measured: our layer and one written by hand, on the same game and the same input. Each run is one turn after another. */
import { createCrowd } from "reacher/crowd";
import { parseTrace } from "reacher/trace";
import { plan } from "./game.mjs";

/** What a hand presses, and how often: a key every 120 ms, so that now and then it is a double tap. */
const KEYS = ["KeyW", "KeyD", "KeyD", "KeyW", "KeyA", "ShiftLeft", "KeyS", "KeyA"];
const KEY_MS = 60;
/** A stick that moves from side to side and never jumps: -1 .. 1. */
function sway(n) {
  const at = n % 800;
  return (at < 400 ? at : 800 - at) / 200 - 1;
}

/** The three kinds of step, with the readings that a game reads. Each loop is written out: handed a function, it would measure that too. */
export function layerRuns(input) {
  const kept = new Float64Array(2);
  const read = ({ swim, kick, tuck, surge }) =>
    swim.vx + swim.vy + (kick.on ? 1 : 0) + (tuck.turnedOn ? 1 : 0) + (surge.turnedOn ? 1 : 0);
  const key = { t: 0, control: "KeyW", value: 0 };
  const x = { t: 0, control: "PadLeftStickX", value: 0 };
  const y = { t: 0, control: "PadLeftStickY", value: 0 };
  return {
    idle(turns) {
      let t = kept[0];
      let sum = kept[1];
      for (let n = 0; n < turns; n++) {
        t += 4;
        sum += read(input.step(t));
      }
      kept[0] = t;
      kept[1] = sum;
    },
    key(turns) {
      let t = kept[0];
      let sum = kept[1];
      for (let n = 0; n < turns; n++) {
        t += KEY_MS;
        key.t = t - 1;
        key.value = (n & 1) ^ 1;
        key.control = KEYS[(n >> 1) % KEYS.length];
        input.feed(key);
        sum += read(input.step(t));
      }
      kept[0] = t;
      kept[1] = sum;
    },
    stick(turns) {
      let t = kept[0];
      let sum = kept[1];
      for (let n = 0; n < turns; n++) {
        t += 4;
        x.t = y.t = t - 1;
        x.value = sway(n * 7);
        y.value = sway(n * 3);
        input.feed(x);
        input.feed(y);
        sum += read(input.step(t));
      }
      kept[0] = t;
      kept[1] = sum;
    },
  };
}

export function handRuns(hand) {
  const kept = new Float64Array(2);
  const read = (state) =>
    state.vx + state.vy + (state.kick ? 1 : 0) + (state.tuckChanged ? 1 : 0) + (state.surge ? 1 : 0);
  return {
    idle(turns) {
      let t = kept[0];
      let sum = kept[1];
      for (let n = 0; n < turns; n++) {
        t += 4;
        sum += read(hand.tick(t));
      }
      kept[0] = t;
      kept[1] = sum;
    },
    key(turns) {
      let t = kept[0];
      let sum = kept[1];
      for (let n = 0; n < turns; n++) {
        t += KEY_MS;
        const code = KEYS[(n >> 1) % KEYS.length];
        if ((n & 1) === 0) hand.keydown(code);
        else hand.keyup(code);
        sum += read(hand.tick(t));
      }
      kept[0] = t;
      kept[1] = sum;
    },
    stick(turns) {
      let t = kept[0];
      let sum = kept[1];
      for (let n = 0; n < turns; n++) {
        t += 4;
        hand.stickX = sway(n * 7);
        hand.stickY = sway(n * 3);
        sum += read(hand.tick(t));
      }
      kept[0] = t;
      kept[1] = sum;
    },
  };
}

export function switchPlan(size) {
  const actions = {};
  for (let n = 0; n < size; n++)
    actions[`action${n}`] = { kind: "switch", from: { main: `Key${String.fromCharCode(65 + (n % 26))}` } };
  return { reacherPlan: 1, actions };
}

export function snapshotRuns(input) {
  input.step(1);
  const kept = input.snapshot();
  const one = new Uint8Array(kept.length);
  const other = new Uint8Array(kept.length);
  return {
    ours(turns) {
      for (let n = 0; n < turns; n++) {
        input.snapshot(kept);
        input.restore(kept);
      }
    },
    bare(turns) {
      for (let n = 0; n < turns; n++) {
        one.set(other);
        other.set(one);
      }
    },
  };
}

/** What little some games have: a stick to swim and a key. */
const SMALL = {
  reacherPlan: 1,
  actions: {
    swim: { ...plan.actions.swim, from: { pad: "PadLeftStick" } },
    kick: { kind: "switch", from: { main: "ShiftLeft" } },
  },
};

/** A server's crowd, a tenth of which press or release a key in each turn; of the small game, or of the whole one. */
export function crowdRuns(size, isWhole = false) {
  const crowd = createCrowd(isWhole ? plan : SMALL, size);
  const event = { t: 0, control: "ShiftLeft", value: 0 };
  const kept = new Float64Array(1);
  const runs = {
    idle(turns) {
      for (let n = 0; n < turns; n++) crowd.step((kept[0] += 4));
    },
    busy(turns) {
      for (let n = 0; n < turns; n++) {
        kept[0] += 4;
        event.t = kept[0] - 1;
        event.value ^= 1;
        for (let n = 0; n < size; n += 10) crowd.players[n].feed(event);
        crowd.step(kept[0]);
      }
    },
  };
  runs.busy(300);
  return runs;
}

/** The dive again and again, each time later. */
export function longTrace(text, events) {
  const { entries } = parseTrace(text);
  const end = entries.at(-1).t;
  const objects = [];
  for (let turn = 0; objects.length < events; turn++) {
    for (const entry of entries) if ("control" in entry) objects.push({ ...entry, t: entry.t + turn * end });
  }
  return {
    head: '{"reacherTrace":1}\n',
    objects,
    lines: objects.map((entry) => JSON.stringify(entry)).join("\n"),
  };
}
