/** What browsers give to pages behind TLS and of this machine alone, and which pages in a network of one's own need too. */

/** A name that nobody else makes: a random UUID (RFC 9562, version 4). */
export function uniqueName(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6]! & 0x0f) | 0x40;
  bytes[8] = (bytes[8]! & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-');
}

/** Put words on the clipboard; false where the browser lets no page do it. */
export async function copied(words: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(words);
    return true;
  } catch {
    return copiedByHand(words);
  }
}

/** As somebody would: write them into a field, mark it, copy. */
function copiedByHand(words: string): boolean {
  if (typeof document === 'undefined') return false;
  const before = document.activeElement as HTMLElement | null;
  const field = document.createElement('textarea');
  field.value = words;
  field.style.cssText = 'position:fixed;opacity:0';
  (before?.closest('[role=dialog]') ?? document.body).append(field);
  field.select();
  const done = document.execCommand('copy');
  field.remove();
  before?.focus({ preventScroll: true });
  return done;
}
