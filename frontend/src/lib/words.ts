/** The parts of what was typed between commas, blanks and doubles left out. */
export function listOf(typed: string): string[] {
  return [...new Set(typed.split(',').map((w) => w.trim()).filter(Boolean))];
}
