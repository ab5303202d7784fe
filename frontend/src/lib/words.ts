/** The parts of what was typed between commas, blanks and doubles left out. */
export function listOf(typed: string): string[] {
  return [...new Set(typed.split(',').map((w) => w.trim()).filter(Boolean))];
}

/** A count with its noun: "1 box", "2 boxes". */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
