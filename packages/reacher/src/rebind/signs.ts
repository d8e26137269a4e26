/**
 * Signs of pad controls, drawn by their place on the pad: no letters, no colours. In: a control. Out: SVG (W3C SVG 2). Pure.
 */
import { findControl } from "../controls/catalogue.js";
import { placeLabel } from "../controls/labels.js";

const FACES: Record<string, readonly [number, number]> = {
  PadSouth: [12, 18],
  PadEast: [18, 12],
  PadWest: [6, 12],
  PadNorth: [12, 6],
};
const ARMS: Record<string, string> = {
  Up: "M9 3h6v6H9z",
  Down: "M9 15h6v6H9z",
  Left: "M3 9h6v6H3z",
  Right: "M15 9h6v6h-6z",
};
const CROSS = "M9 3h6v6h6v6h-6v6H9v-6H3V9h6z";
const SIDE_ARROWS: Record<string, string> = {
  Up: "M12 1l3 4H9z",
  Down: "M12 23l3-4H9z",
  Left: "M1 12l4-3v6z",
  Right: "M23 12l-4-3v6z",
};

/**
 * The sign of a pad's control as an SVG text, 24 by 24, in the colour of the text around it; `undefined` for what has none.
 * Screen readers are told the control's label.
 */
export function padSign(control: string): string | undefined {
  const drawing = drawingOf(control);
  if (drawing === undefined) return undefined;
  const label = placeLabel(control);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24" width="1.4em" height="1.4em" role="img" aria-label="${label}" fill="none" stroke="currentColor" stroke-width="1.6">${drawing}</svg>`;
}

function drawingOf(control: string): string | undefined {
  if (findControl(control)?.device !== "pad") return undefined;
  if (control in FACES) return faces(control);
  const stick = /^Pad(Left|Right)Stick(Up|Down|Left|Right|Press|X|Y)?$/.exec(control);
  if (stick !== null) return stickDrawing(stick[1] === "Left", stick[2]);
  const arm = /^PadDpad(Up|Down|Left|Right|X|Y)?$/.exec(control);
  if (arm !== null) return `<path d="${CROSS}"/>${armsOf(arm[1]).map(filled).join("")}`;
  const shoulder = /^Pad(Left|Right)(Bumper|Trigger)$/.exec(control);
  if (shoulder !== null) return shoulderDrawing(shoulder[1] === "Left", shoulder[2] === "Trigger");
  const centre = /^PadCenter(Left|Right)?$/.exec(control);
  return centre === null ? undefined : centreDrawing(centre[1]);
}

function filled(path: string): string {
  return `<path d="${path}" fill="currentColor"/>`;
}

/** Four buttons around a middle, the one that is meant filled. */
function faces(meant: string): string {
  return Object.entries(FACES)
    .map(
      ([name, [x, y]]) =>
        `<circle cx="${x}" cy="${y}" r="3.6"${name === meant ? ' fill="currentColor"' : ""}/>`,
    )
    .join("");
}

/** A ring with its cap, and a bar on the side of the pad that it is on. */
function stickDrawing(isLeft: boolean, way: string | undefined): string {
  const bar = `<path d="${isLeft ? "M5 22h5" : "M14 22h5"}"/>`;
  const cap = `<circle cx="12" cy="12" r="3"${way === "Press" ? ' fill="currentColor"' : ""}/>`;
  const ring = `<circle cx="12" cy="12" r="6.5"/>`;
  const named =
    way === undefined || way === "Press"
      ? []
      : way === "X"
        ? ["Left", "Right"]
        : way === "Y"
          ? ["Up", "Down"]
          : [way];
  return ring + cap + bar + named.map((one) => filled(SIDE_ARROWS[one]!)).join("");
}

/** A pad's upper edge; the shoulder that is meant filled, triggers above bumpers. */
function shoulderDrawing(isLeft: boolean, isTrigger: boolean): string {
  const box = (x: number, y: number, meant: boolean) =>
    `<rect x="${x}" y="${y}" width="8" height="5" rx="2"${meant ? ' fill="currentColor"' : ""}/>`;
  return (
    box(2, 3, isLeft && isTrigger) +
    box(14, 3, !isLeft && isTrigger) +
    box(2, 11, isLeft && !isTrigger) +
    box(14, 11, !isLeft && !isTrigger) +
    `<path d="M2 20h20"/>`
  );
}

/** The small buttons in the middle. */
function centreDrawing(side: string | undefined): string {
  const pill = (x: number, meant: boolean) =>
    `<rect x="${x}" y="10" width="4.5" height="4" rx="2"${meant ? ' fill="currentColor"' : ""}/>`;
  return (
    `<rect x="1" y="4" width="22" height="16" rx="7"/>` +
    pill(4, side === "Left") +
    pill(9.75, side === undefined) +
    pill(15.5, side === "Right")
  );
}

/** The arms of the direction pad that are meant: one, two opposite ones, or none where it is all of it. */
function armsOf(way: string | undefined): string[] {
  const ways =
    way === "X" ? ["Left", "Right"] : way === "Y" ? ["Up", "Down"] : way === undefined ? [] : [way];
  return ways.map((one) => ARMS[one]!);
}
