/** Something that can be done by name. */
export interface Command {
  name: string;
  key?: string;
  run: () => unknown;
}

/** All commands on offer: those of the window, and those of the view that is open. */
class Commands {
  groups = $state.raw<{ name: string; commands: Command[] }[]>([]);
  open = $state(false);

  /** Offer commands as long as a view is there; call what comes back when it goes. */
  offer(name: string, commands: Command[]): () => void {
    const group = { name, commands };
    this.groups = [...this.groups, group];
    return () => (this.groups = this.groups.filter((g) => g !== group));
  }

  /** Commands whose words hold all that was typed, best first. */
  found(query: string): (Command & { group: string })[] {
    const all = this.groups.flatMap((g) => g.commands.map((c) => ({ ...c, group: g.name })));
    return ranked(all, query);
  }
}

/** Items whose name holds every typed word; those where they begin words come first, in their own order. */
export function ranked<T extends { name: string; group?: string }>(items: T[], query: string): T[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const scored = items.map((item, i) => {
    const name = `${item.name} ${item.group ?? ''}`.toLowerCase();
    const hits = words.map((w) => (new RegExp(`(^|[^\\p{L}])${w.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`, 'u').test(name) ? 2 : name.includes(w) ? 1 : -1000));
    return { item, i, score: hits.reduce((a, b) => a + b, 0) };
  });
  return scored.filter((s) => s.score >= 0).sort((a, b) => b.score - a.score || a.i - b.i).map((s) => s.item);
}

export const commands = new Commands();
