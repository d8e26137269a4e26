/** Writes docs/controls.md and its two drawings from the catalogue of controls. `--check`: only says whether they are current. */
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { allControls, placeLabel } from "reacher";

const docs = fileURLToPath(new URL("../docs/", import.meta.url));

/** Keys as they lie on a desk: where each row begins, and its keys with their widths where these are not 1. */
const ROWS = [
  [0, 0, "Escape . F1 F2 F3 F4 .5 F5 F6 F7 F8 .5 F9 F10 F11 F12"],
  [
    0,
    1.4,
    "Backquote Digit1 Digit2 Digit3 Digit4 Digit5 Digit6 Digit7 Digit8 Digit9 Digit0 Minus Equal Backspace:2",
  ],
  [
    0,
    2.4,
    "Tab:1.5 KeyQ KeyW KeyE KeyR KeyT KeyY KeyU KeyI KeyO KeyP BracketLeft BracketRight Backslash:1.5",
  ],
  [0, 3.4, "CapsLock:1.75 KeyA KeyS KeyD KeyF KeyG KeyH KeyJ KeyK KeyL Semicolon Quote Enter:2.25"],
  [
    0,
    4.4,
    "ShiftLeft:1.25 IntlBackslash KeyZ KeyX KeyC KeyV KeyB KeyN KeyM Comma Period Slash ShiftRight:2.75",
  ],
  [
    0,
    5.4,
    "ControlLeft:1.25 MetaLeft:1.25 AltLeft:1.25 Space:6.25 AltRight:1.25 MetaRight:1.25 ContextMenu:1.25 ControlRight:1.25",
  ],
  [15.4, 0, "PrintScreen ScrollLock Pause"],
  [15.4, 1.4, "Insert Home PageUp"],
  [15.4, 2.4, "Delete End PageDown"],
  [16.4, 4.4, "ArrowUp"],
  [15.4, 5.4, "ArrowLeft ArrowDown ArrowRight"],
  [18.8, 1.4, "NumLock NumpadDivide NumpadMultiply NumpadSubtract"],
  [18.8, 2.4, "Numpad7 Numpad8 Numpad9 NumpadAdd"],
  [18.8, 3.4, "Numpad4 Numpad5 Numpad6"],
  [18.8, 4.4, "Numpad1 Numpad2 Numpad3 NumpadEnter"],
  [18.8, 5.4, "Numpad0:2 NumpadDecimal"],
];
const KEY = 54;
const MARGIN = 12;

const STYLE = `<style>
    .ground { fill: #eef2f4; }
    .part { fill: #ffffff; stroke: #7b8a93; }
    text { font: 10px system-ui, sans-serif; fill: #17252d; text-anchor: middle; }
    .name { font-size: 13px; }
    .long { font-size: 9px; }
  </style>`;

/** A name in lines that fit a key. */
function lines(name, width) {
  const words = name.match(/[A-Z][a-z]*\d*|\d+/g);
  const found = [];
  for (const word of words) {
    const last = found.at(-1);
    if (last !== undefined && (last + word).length * 6.6 <= width * KEY - 6)
      found[found.length - 1] = last + word;
    else found.push(word);
  }
  return found;
}

function keyboard() {
  const parts = [];
  for (const [begin, row, keys] of ROWS) {
    let x = begin;
    for (const key of keys.split(" ")) {
      if (/^\d*\.\d*$/.test(key)) {
        x += key === "." ? 1 : Number(key);
        continue;
      }
      const [name, width = "1"] = key.split(":");
      const [left, top, wide] = [MARGIN + x * KEY, MARGIN + row * KEY, Number(width) * KEY - 4];
      const told = lines(name, Number(width));
      parts.push(
        `<rect class="part" x="${round(left)}" y="${round(top)}" width="${round(wide)}" height="${KEY - 4}" rx="5"/>`,
        ...told.map(
          (line, n) =>
            `<text${line.length > 8 ? ` class="long"` : ""} x="${round(left + wide / 2)}" y="${round(top + KEY / 2 + 1 + (n - (told.length - 1) / 2) * 11)}">${line}</text>`,
        ),
      );
      x += Number(width);
    }
  }
  return svg(
    Math.round(2 * MARGIN + 22.8 * KEY),
    Math.round(2 * MARGIN + 6.4 * KEY),
    "A keyboard: each key by its code",
    parts,
  );
}

/** Parts of a pad: where each lies, how large it is, and where its name stands. */
const PAD = [
  ["PadLeftTrigger", "M250 60q0-34 40-34h60v40z", [170, 46]],
  ["PadRightTrigger", "M790 60q0-34-40-34h-60v40z", [870, 46]],
  ["PadLeftBumper", "M236 96q10-20 40-20h84v20z", [150, 92]],
  ["PadRightBumper", "M804 96q-10-20-40-20h-84v20z", [890, 92]],
  ["PadDpadUp", box(408, 274, 30, 34), [423, 268]],
  ["PadDpadLeft", box(372, 308, 36, 30), [318, 327]],
  ["PadDpadRight", box(438, 308, 36, 30), [524, 327]],
  ["PadDpadDown", box(408, 338, 30, 34), [423, 388]],
  ["PadNorth", circle(700, 150, 19), [700, 124]],
  ["PadWest", circle(652, 198, 19), [596, 202]],
  ["PadEast", circle(748, 198, 19), [806, 202]],
  ["PadSouth", circle(700, 246, 19), [760, 274]],
  ["PadCenterLeft", box(448, 150, 34, 16), [446, 142]],
  ["PadCenterRight", box(558, 150, 34, 16), [594, 142]],
  ["PadCenter", circle(520, 196, 20), [520, 234]],
  ["PadLeftStick", circle(326, 198, 52), [326, 138]],
  ["PadRightStick", circle(650, 330, 52), [650, 400]],
];

function pad() {
  const body = `<path class="part" d="M236 96h568q60 0 84 90l44 190q10 70-46 74-30 2-58-24-20-16-44-16H256q-24 0-44 16-28 26-58 24-56-4-46-74l44-190q24-90 84-90z"/>`;
  const sticks = [
    ["PadLeftStickPress", 326, 198],
    ["PadRightStickPress", 650, 330],
  ].flatMap(([name, x, y]) => [
    `<path class="part" d="${circle(x, y, 20)}"/>`,
    `<text x="${x}" y="${y + 4}">Press</text>`,
    `<text x="${x}" y="${y - 30}">Up</text><text x="${x}" y="${y + 38}">Down</text><text x="${x - 35}" y="${y + 4}">Left</text><text x="${x + 35}" y="${y + 4}">Right</text>`,
    `<!-- ${name} -->`,
  ]);
  const parts = PAD.flatMap(([name, d, [x, y]]) => [
    `<path class="part" d="${d}"/>`,
    `<text class="name" x="${x}" y="${y}">${name}</text>`,
  ]);
  return svg(1040, 462, "A pad: each part by its place", [body, ...parts, ...sticks]);
}

function box(x, y, width, height) {
  return `M${x} ${y}h${width}v${height}h-${width}z`;
}
function circle(x, y, r) {
  return `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`;
}
const round = (value) => Math.round(value * 10) / 10;

function svg(width, height, title, parts) {
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" role="img">
  <title>${title}</title>
  ${STYLE}
  <rect class="ground" width="${width}" height="${height}" rx="10"/>
  ${parts.join("\n  ")}
</svg>
`;
}

/** The catalogue's controls by what they are. */
const FAMILIES = [
  ["Keys", ({ device, family }) => device === "keyboard" && family === "key"],
  ["Mouse buttons and wheel", ({ device, family }) => device === "mouse" && family === "key"],
  ["The mouse's movement", ({ family }) => family === "motion"],
  ["The mouse's place", ({ family }) => family === "pointer"],
  ["Pad buttons", ({ device, family }) => device === "pad" && family === "button"],
  ["Triggers", ({ family }) => family === "trigger"],
  [
    "Sticks and the directional pad",
    ({ family }) => family === "stick" || family === "dpad" || family === "dpadAxis",
  ],
  ["One axis of a stick", ({ family }) => family === "axis"],
  ["One side of a stick, as a button", ({ family }) => family === "half"],
];

const TAKES = {
  Keys: "They are pressed or not: for switches, and as ends of movements. Named by the place on the keyboard (`KeyboardEvent.code`, W3C UI Events), whatever is printed there: `KeyW` is the key above S on every layout.",
  "Mouse buttons and wheel": "Pressed or not. Each notch of the wheel rises and falls at one moment.",
  "The mouse's movement": "In pixels; for a turn (`MouseMove` is both ways).",
  "The mouse's place":
    "Where the pointer is, from the middle of the area given to `attachBrowser`: 1 at the nearer edges, y down. A vector takes it as `MousePoint`; traces have its two ways.",
  "Pad buttons":
    "By their place in the standard layout (W3C Gamepad, section 7). What a pad has beyond it is `PadButton17` and so on.",
  Triggers: "0 to 1: for an axis, and as buttons, pressed from 0.5.",
  "Sticks and the directional pad":
    "A stick moves a vector or turns; `PadDpad` moves a vector, `PadDpadX` and `PadDpadY` an axis.",
  "One axis of a stick":
    "-1 to 1: for an axis. What a pad has beyond the standard layout is `PadAxis4` and so on.",
  "One side of a stick, as a button": "Pressed from 0.5: for switches, ends, flicks.",
};

const COLUMNS = 3;

function page() {
  const sections = FAMILIES.map(([title, belongs]) => {
    const cells = allControls()
      .filter(belongs)
      .map(({ name }) => `\`${name}\` | ${placeLabel(name)}`);
    const rows = [];
    const height = Math.ceil(cells.length / COLUMNS);
    for (let n = 0; n < height; n++)
      rows.push(`| ${[0, 1, 2].map((column) => cells[n + column * height] ?? " | ").join(" | ")} |`);
    return `## ${title}

${TAKES[title]}

| name | label | name | label | name | label |
|---|---|---|---|---|---|
${rows.join("\n")}
`;
  });
  return `# Controls

Every control that a plan may name, with the label that it has where nothing better is known of the player's keyboard or pad (\`placeLabel\`;
\`createKeyLabels\` learns what is printed on the keys). \`reacher controls WORD\` finds them in a terminal. This page is made by
\`scripts/controls.mjs\`.

![A keyboard, each key by its code](drawings/keyboard.svg)

![A pad, each part by its place](drawings/pad.svg)

The sides of a stick are \`PadLeftStickUp\` and so on, its two axes \`PadLeftStickX\` and \`PadLeftStickY\`, pressed down it is \`PadLeftStickPress\`.

${sections.join("\n")}`;
}

mkdirSync(`${docs}drawings`, { recursive: true });
const files = { "controls.md": page(), "drawings/keyboard.svg": keyboard(), "drawings/pad.svg": pad() };
for (const [file, text] of Object.entries(files)) {
  if (process.argv[2] !== "--check") writeFileSync(docs + file, text);
  else if (readFileSync(docs + file, "utf8") !== text) {
    console.error(`docs/${file} is not current: node scripts/controls.mjs`);
    process.exitCode = 1;
  }
}
