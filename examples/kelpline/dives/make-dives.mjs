/**
 * Records the demo's dives: scripted hands, played into the plan while a recorder listens.
 * Run after a build: node examples/kelpline/dives/make-dives.mjs
 */
import { readFileSync, writeFileSync } from "node:fs";
import { createInputLayer } from "reacher";
import { record } from "reacher/trace";
import { play } from "reacher/testing";

const plan = JSON.parse(readFileSync(new URL("../plan/kelpline.plan.json", import.meta.url), "utf8"));

dive("night-round", "Keyboard: along the kelp line and back", (hands, input) => {
  hands.press("KeyW").wait(312.25);
  // A diagonal, let go a few milliseconds apart: the diver keeps facing it.
  hands.press("KeyD").wait(420.5).release("KeyW").wait(22.25).release("KeyD").wait(260);
  // Left, then right as well, then right is let go: left again.
  hands.press("KeyA").wait(300).press("KeyD").wait(250.5).release("KeyD").wait(240).release("KeyA").wait(150);
  // The second speed, with the operating system's key repeat on top of it.
  hands.press("KeyD").wait(180).press("ShiftLeft").wait(500);
  for (let n = 0; n < 8; n++) hands.press("ShiftLeft").wait(33);
  input.setFlag("hasAir", false, hands.t);
  hands.wait(640);
  input.setFlag("hasAir", true, hands.t);
  hands.wait(300).release("ShiftLeft").wait(120).release("KeyD").wait(200);
  // A short press leaves the tuck on; a long one ends with the key.
  hands
    .tap("KeyC", 96)
    .wait(150)
    .press("ArrowLeft")
    .wait(420)
    .tap("KeyC", 80)
    .wait(200)
    .release("ArrowLeft")
    .wait(90);
  hands.press("KeyC").wait(610.5).release("KeyC").wait(120);
  // Sink, then both ends at once: neither.
  hands.press("KeyQ").wait(350).press("KeyE").wait(200).release("KeyQ").wait(300).release("KeyE").wait(120);
  // A surge, a second tap too late, and one too soon after the last surge.
  hands.tap("KeyD", 70).wait(90).tap("KeyD", 260).wait(120);
  hands.tap("KeyA", 80).wait(190).tap("KeyA", 90).wait(700);
  hands
    .tap("ArrowUp", 70)
    .wait(80)
    .tap("KeyW", 200)
    .wait(60)
    .tap("KeyW", 60)
    .wait(60)
    .tap("KeyW", 60)
    .wait(300);
  // Out of breath: a double tap is seen, and refused.
  input.setFlag("hasAir", false, hands.t);
  hands.wait(400).tap("KeyS", 70).wait(90).tap("KeyS", 120).wait(100);
  input.setFlag("hasAir", true, hands.t);
  hands.wait(300);
  // Snipping goes on while the key is held.
  hands.press("KeyX").wait(1120).release("KeyX").wait(140);
  // A short press grabs, a long one hauls; the haul takes over, and reeling in mutes the rest.
  hands.tap("KeyG", 180).wait(300).press("KeyG").wait(760);
  input.mute("surge", "reel", hands.t);
  input.mute("snip", "reel", hands.t);
  hands.release("KeyG").wait(150).tap("KeyX", 90).wait(200);
  input.unmute("surge", "reel", hands.t);
  input.unmute("snip", "reel", hands.t);
  hands.wait(150);
  // The menu: what is pressed in it does nothing below, and the key that closes it does not snip.
  hands.press("Escape").wait(60);
  input.enter("menu", hands.t);
  hands.release("Escape").wait(150).tap("ShiftLeft", 90).wait(120).press("KeyX").wait(70);
  input.leave("menu", hands.t);
  hands.wait(160).release("KeyX").wait(200);
  // Both keys at once flash the boat; the lamp waited, and stays as it is. A series does the same.
  hands.press("KeyF").wait(60).press("KeyG").wait(220).release("KeyF", "KeyG").wait(250);
  hands.tap("KeyI", 60).wait(120).tap("KeyI", 60).wait(120).tap("KeyK", 90).wait(300);
  // The lamp, aimed square and eight ways; off and on again.
  hands
    .press("KeyI")
    .wait(200)
    .press("KeyL")
    .wait(240)
    .press("KeyJ")
    .wait(160)
    .release("KeyJ", "KeyI")
    .wait(100)
    .release("KeyL");
  hands.wait(90).tap("KeyF", 70).wait(420).tap("KeyF", 75).wait(250);
  // The window loses its focus while Shift and W are held; their releases never come.
  hands.press("KeyW").wait(130).press("ShiftRight").wait(370).loseFocus().wait(600);
  hands.tap("KeyS", 480).wait(300);
  // The current carries the diver, and beside it the keys; then a designer drags the easy speed.
  input.drive("swim", [-0.3, -0.08], "current", hands.t);
  hands.wait(400).press("KeyD").wait(500);
  input.setNumber("easy", 3.2, hands.t);
  hands.wait(400).release("KeyD").wait(200);
  input.drive("swim", null, "current", hands.t);
  input.setNumber("easy", 2.4, hands.t);
  hands.wait(200);
  // A buoy is drawn and thrown; the second time the window goes away, and nothing is thrown.
  hands.press("KeyT").wait(640).release("KeyT").wait(200).press("KeyT").wait(300).loseFocus().wait(200);
  // Snips pressed while the buoy is reeled in: the last one comes as soon as the hands are free.
  input.mute("snip", "reel", hands.t);
  hands.tap("KeyX", 60).wait(200).tap("KeyX", 60).wait(40);
  input.unmute("snip", "reel", hands.t);
  hands.wait(300);
  // Along the bank: two of the keys crawl, faster in a tuck.
  input.enter("bank", hands.t);
  hands.press("KeyA").wait(400).press("KeyC").wait(600).release("KeyC").wait(300).release("KeyA").wait(150);
  input.leave("bank", hands.t);
  hands.wait(250);
});

dive("pad-drift", "Pad: slow tilts through the current", (hands, input) => {
  hands.wait(250);
  // From rest to the rim and back, through every gait.
  for (let n = 0; n <= 40; n++)
    hands.tilt("PadLeftStick", Math.round((n / 40) * 960) / 1000, 0.02).wait(24.5);
  hands.wait(300);
  for (let n = 40; n >= 0; n--)
    hands.tilt("PadLeftStick", Math.round((n / 40) * 960) / 1000, 0.02).wait(18.25);
  hands.tilt("PadLeftStick", 0.03, -0.02).wait(260);
  // Once around, kicking on the way.
  for (let n = 0; n <= 48; n++) {
    const turn = (n / 48) * 2 * Math.PI;
    hands.tilt("PadLeftStick", round(0.85 * Math.cos(turn)), round(0.85 * Math.sin(turn))).wait(21);
    if (n === 12) hands.press("PadLeftStickPress");
    if (n === 36) hands.release("PadLeftStickPress");
  }
  hands.tilt("PadLeftStick", 0.6, 0.45).wait(120);
  input.setFlag("inCurrent", true, hands.t);
  hands.wait(420).tap("PadEast", 110).wait(380).tap("PadEast", 90).wait(240);
  input.setFlag("inCurrent", false, hands.t);
  hands.wait(200);
  // Down on the left trigger, up on the right one, and both at once.
  for (const pull of [0.1, 0.3, 0.55, 0.8, 1]) hands.pull("PadLeftTrigger", pull).wait(40);
  hands
    .wait(200)
    .pull("PadRightTrigger", 0.6)
    .wait(180)
    .pull("PadLeftTrigger", 0)
    .wait(220)
    .pull("PadRightTrigger", 0)
    .wait(100);
  // The lamp follows the right stick in eighths, and is left on a border only five degrees past it.
  for (let n = 0; n <= 36; n++) {
    const turn = (n / 36) * Math.PI;
    hands.tilt("PadRightStick", round(0.9 * Math.cos(turn)), round(0.9 * Math.sin(turn))).wait(17);
  }
  hands.tilt("PadRightStick", 0, 0).wait(80).tap("PadNorth", 85).wait(300);
  // The pad's battery ends in mid-swim.
  hands.tilt("PadLeftStick", -0.9, 0.3).wait(350);
  input.lose("pad", 0, hands.t);
  hands.wait(500);
});

// Amber on the left half of the keyboard, teal on the right; then a pad joins for each, and amber's is lost for a while.
dive(
  "two-divers",
  "Two divers on one keyboard, then a pad each",
  (hands, input) => {
    const pad = (index, control, value) => input.feed({ t: hands.t, control, value, pad: index });
    hands
      .wait(300)
      .press("KeyD")
      .wait(120)
      .press("ArrowLeft")
      .wait(200)
      .press("ShiftLeft")
      .wait(150)
      .press("ShiftRight");
    hands
      .wait(500)
      .release("ShiftLeft")
      .wait(200)
      .release("KeyD")
      .wait(80)
      .release("ArrowLeft", "ShiftRight")
      .wait(300);
    hands
      .tap("ArrowUp", 70)
      .wait(90)
      .press("ArrowUp")
      .wait(60)
      .press("KeyX")
      .wait(700)
      .release("KeyX", "ArrowUp")
      .wait(250);
    input.seat("teal").enter("menu", hands.t);
    hands.wait(100).tap("Enter", 80).wait(60).press("KeyW").wait(300).release("KeyW");
    input.seat("teal").leave("menu", hands.t);
    hands.wait(250);
    pad(0, "PadSouth", 1);
    hands.wait(90);
    pad(0, "PadSouth", 0);
    pad(1, "PadEast", 1);
    hands.wait(110);
    pad(1, "PadEast", 0);
    for (let n = 1; n <= 20; n++) {
      pad(0, "PadLeftStickX", n / 20);
      pad(1, "PadLeftStickY", -n / 20);
      hands.wait(20);
    }
    hands.wait(250);
    input.lose("pad", 0, hands.t);
    hands.wait(500);
    pad(0, "PadLeftStickX", -0.7);
    hands.wait(400);
    pad(0, "PadLeftStickX", 0);
    pad(1, "PadLeftStickY", 0);
    hands.wait(250);
  },
  ["amber", "teal"],
);

// Sixty double taps, four ways, by hands that are neither quick nor even; between them plain swimming and snipping.
dive("surge-practice", "Keyboard: double taps by unhurried hands, and the swimming between them", (hands) => {
  const chance = dice(7);
  /** About `middle`, give or take `spread`. */
  const about = (middle, spread) =>
    Math.max(30, Math.round((middle + (chance() + chance() + chance() - 1.5) * spread) * 2) / 2);
  const keys = ["KeyD", "KeyA", "KeyW", "KeyS"];
  for (let n = 0; n < 60; n++) {
    const key = keys[Math.floor(chance() * 4)];
    const apart = about(235, 95);
    const first = Math.min(about(95, 40), apart - 40);
    hands
      .tap(key, first)
      .wait(apart - first)
      .tap(key, about(380, 150))
      .wait(about(600, 300));
    // Short corrections of the way: the same key again, after it was held to move.
    for (let turns = Math.floor(chance() * 4); turns > 0; turns--) {
      const way = keys[Math.floor(chance() * 4)];
      const held = about(330, 260);
      hands.tap(way, held).wait(about(120, 90)).tap(way, about(300, 200)).wait(about(700, 250));
    }
    // A zigzag between two keys.
    if (n % 20 === 0) {
      for (let swings = 0; swings < 4; swings++)
        hands.tap("KeyW", about(90, 40)).wait(30).tap("KeyD", about(90, 40)).wait(30);
      hands.wait(800);
    }
    // A row of snips.
    if (n % 8 === 0) {
      for (let snips = 0; snips < 6; snips++) hands.tap("KeyX", 70).wait(about(110, 30));
      hands.wait(700);
    }
  }
});

// A worn stick: it trembles, and what it calls the centre moves up and to the right by a twentieth of its travel a minute.
dive("worn-stick", "Pad: a worn left stick whose centre wanders", (hands) => {
  const chance = dice(11);
  const tremble = () => (chance() - 0.5) * 0.016;
  const centre = () => ({ x: 0.015 + (hands.t / 60_000) * 0.04, y: -0.01 + (hands.t / 60_000) * 0.03 });
  const tilt = (x, y) => {
    const { x: cx, y: cy } = centre();
    hands.tilt("PadLeftStick", round(cx + x * (1 - Math.abs(cx))), round(cy + y * (1 - Math.abs(cy))));
  };
  while (hands.t < 150_000) {
    for (let n = 0; n < 24; n++) {
      tilt(tremble(), tremble());
      hands.wait(60 + Math.round(chance() * 120));
    }
    const way = chance() * 2 * Math.PI;
    const far = 0.55 + 0.45 * chance();
    for (let n = 1; n <= 6; n++) {
      tilt((far * 0.95 * Math.cos(way) * n) / 6, (far * 0.95 * Math.sin(way) * n) / 6);
      hands.wait(16);
    }
    hands.wait(300 + Math.round(chance() * 900));
    // Now and then once around the rim.
    if (chance() < 0.3) {
      for (let n = 0; n <= 72; n++) {
        const turn = way + (n / 72) * 2 * Math.PI;
        tilt(0.96 * Math.cos(turn), 0.94 * Math.sin(turn));
        hands.wait(14);
      }
    }
  }
});

/** Numbers from 0 to 1, the same in every run. */
function dice(seed) {
  let state = seed;
  return () => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648;
}

function dive(name, note, script, seats = ["amber"]) {
  const input = createInputLayer(plan);
  const recorder = record(input);
  // Who dives alone has all the slots.
  if (seats.length === 1) input.openSeats(seats);
  const hands = play(input).step();
  script(hands, input);
  // A recorder never hears a key's repeat, and a trace from a simpler one may well have it; the dive has it on purpose.
  writeFileSync(new URL(`${name}.trace.jsonl`, import.meta.url), recorder.text({ now: hands.t, note }));
}

function round(value) {
  return Math.round(value * 1000) / 1000;
}
