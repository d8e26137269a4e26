/** Numbers for controls' names, the same in all plans: a waiting event keeps its meaning when the tables change. */
const numbers = new Map<string, number>();
const names: string[] = [];

export function numberOf(control: string): number {
  let number = numbers.get(control);
  if (number === undefined) numbers.set(control, (number = names.push(control) - 1));
  return number;
}

/** The number of a name, without adding unbound ones. */
export function knownNumber(control: string): number | undefined {
  return numbers.get(control);
}

export function nameOf(number: number): string {
  return names[number]!;
}
