/** Every control's name as a number, the same in all plans: an event that waits means the same whatever tables come. */
const numbers = new Map<string, number>();
const names: string[] = [];

export function numberOf(control: string): number {
  let number = numbers.get(control);
  if (number === undefined) numbers.set(control, (number = names.push(control) - 1));
  return number;
}

/** Without taking up a name that nobody has bound. */
export function knownNumber(control: string): number | undefined {
  return numbers.get(control);
}

export function nameOf(number: number): string {
  return names[number]!;
}
