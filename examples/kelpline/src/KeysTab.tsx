/** The player's keys: a row for each action, a column for each slot, with clashes where they are. */
import { useState } from "react";
import { Button, Input, Label, SearchField } from "react-aria-components";
import { bindingRows, type Cell, type Row } from "reacher/rebind";
import oneHand from "../plan/one-hand.overrides.json";
import rightHand from "../plan/right-hand.overrides.json";
import { CaptureDialog, type Place } from "./CaptureDialog";
import { ControlSign } from "./ControlSign";
import type { Session } from "./session";

const PARTS: Record<string, string> = {
  up: "↑",
  left: "←",
  down: "↓",
  right: "→",
  minus: "−",
  plus: "+",
};
const EMPTY = { reacherOverrides: 1, plan: "kelpline", planVersion: 1, controls: {}, settings: {} };
const PRESETS = [
  { name: "Left hand", overrides: EMPTY },
  { name: "Right hand", overrides: rightHand },
  { name: "One hand", overrides: oneHand },
];

export function KeysTab({ session }: { session: Session }) {
  const [sought, setSought] = useState("");
  const [place, setPlace] = useState<Place | undefined>();
  const { editor } = session.shown.settings;
  // What fingers work has its place on the page.
  const slots = session.shown.seat.slots.filter((name) => session.plan.slots?.[name]?.device !== "touch");
  const rows = bindingRows(editor.base, editor.overrides, session.labels.label, slots).filter(
    (row) => !row.locked && fits(row, sought),
  );
  const columns = Object.entries(editor.plan.slots ?? {})
    .filter(([name]) => slots.includes(name))
    .map(([name, { label = name }]) => ({ name, label }));
  return (
    <>
      <div className="row tools">
        <SearchField value={sought} onChange={setSought} className="search">
          <Label>Find</Label>
          <Input placeholder="an action or a key" />
        </SearchField>
        <span className="presets" role="group" aria-label="Presets">
          {PRESETS.map(({ name, overrides }) => (
            <Button key={name} className="react-aria-Button quiet" onPress={() => editor.replace(overrides)}>
              {name}
            </Button>
          ))}
        </span>
      </div>
      <div className="scroll" tabIndex={-1}>
        <table className="bindings">
          <thead>
            <tr>
              <th scope="col">Action</th>
              {columns.map(({ name, label }) => (
                <th key={name} scope="col">
                  {label}
                </th>
              ))}
              <th scope="col">
                <span className="unseen">Reset</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.action} data-testid={`row-${row.action}`}>
                <th scope="row">{row.label}</th>
                {row.slots.map(({ slot, cells }) => (
                  <td key={slot}>
                    {cells.map((cell) => (
                      <CellButton
                        key={cell.address}
                        cell={cell}
                        row={row}
                        column={columns.find(({ name }) => name === slot)!.label}
                        session={session}
                        onOpen={setPlace}
                      />
                    ))}
                  </td>
                ))}
                <td>
                  {isChanged(row) && (
                    <Button
                      className="react-aria-Button quiet small"
                      aria-label={`${row.label} as designed`}
                      onPress={() => editor.reset(row.action)}
                    >
                      Reset
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && <p>No action and no key is called {sought}.</p>}
      </div>
      {place !== undefined && (
        <CaptureDialog session={session} place={place} onClose={() => setPlace(undefined)} />
      )}
    </>
  );
}

function CellButton({
  cell,
  row,
  column,
  session,
  onOpen,
}: {
  cell: Cell;
  row: Row;
  column: string;
  session: Session;
  onOpen: (place: Place) => void;
}) {
  if (!cell.bindable) return <span className="fixed">{cell.text}</span>;
  const part = cell.part === undefined ? "" : (PARTS[cell.part] ?? "");
  const control = cell.control === null ? "" : session.labels.label(cell.control);
  const named = `${row.label}${cell.part === undefined ? "" : ` ${cell.part}`}, ${column}`;
  const others = cell.clashes.map(({ action }) => session.labelOf(action)).join(" and ");
  const verb = cell.control === null ? "" : gestureOf(cell, control);
  return (
    <>
      {cell.joint !== "" && <span className="joint">{cell.joint}</span>}
      <Button
        className={`react-aria-Button cell${cell.changed ? " changed" : ""}${others === "" ? "" : " clashing"}`}
        aria-label={`${named}: ${control === "" ? "none" : verb + control}${others === "" ? "" : `, which ${others} has too`}`}
        data-testid={`cell-${cell.address}`}
        onPress={() => onOpen({ address: cell.address, title: named, now: control })}
      >
        {part !== "" && <span className="part">{part}</span>}
        {verb}
        {cell.control === null ? (
          <span className="none">none</span>
        ) : (
          <ControlSign parts={[{ control: cell.control, label: control }]} />
        )}
      </Button>
      {others !== "" && <span className="also">also {others}</span>}
    </>
  );
}

/** What the hand does with a control, before its name; empty for a plain press. */
function gestureOf({ text }: Cell, control: string): string {
  return /^(tap|hold|double tap) /.test(text) && text.endsWith(control) ? text.slice(0, -control.length) : "";
}

function isChanged(row: Row): boolean {
  return row.slots.some(({ cells }) => cells.some(({ changed }) => changed));
}

function fits({ label, slots }: Row, sought: string): boolean {
  const wanted = sought.trim().toLowerCase();
  const texts = [
    label,
    ...slots.flatMap(({ cells }) => cells.flatMap(({ text, part }) => [text, part ?? ""])),
  ];
  return texts.some((text) => text.toLowerCase().includes(wanted));
}
