import { afterEach, describe, expect, it, vi } from 'vitest';
import { copied, uniqueName } from './without-tls';

afterEach(() => vi.unstubAllGlobals());

describe('in a page without TLS', () => {
  it('names are still unique, and made as UUIDs are', () => {
    vi.stubGlobal('crypto', { getRandomValues: crypto.getRandomValues.bind(crypto) });
    const names = new Set(Array.from({ length: 200 }, uniqueName));
    expect(names.size).toBe(200);
    for (const name of names) expect(name).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });

  it('words are copied as by hand where there is no clipboard, and the focus comes back', async () => {
    vi.stubGlobal('navigator', {});
    const done: string[] = [];
    const field = { value: '', style: {}, select: () => done.push('marked'), remove: () => done.push('gone') };
    const button = { closest: () => null, focus: () => done.push('focus') };
    vi.stubGlobal('document', { activeElement: button, body: { append: () => done.push('put in') }, createElement: () => field, execCommand: () => done.push(`copied ${field.value}`) > 0 });
    expect(await copied('two words')).toBe(true);
    expect(done).toEqual(['put in', 'marked', 'copied two words', 'gone', 'focus']);
    vi.stubGlobal('document', { activeElement: null, body: { append: () => undefined }, createElement: () => field, execCommand: () => false });
    expect(await copied('x')).toBe(false);
  });
});
