import { api, ok, type Bead, type Schemas } from '../../api/client';
import { sheetRows, type SheetRow } from '../../lib/order';
import type { ProjectState } from '../../lib/project.svelte';
import { columnCentres, rowAt, SHOT_PX, tops } from './geometry';

const OVERSCAN_PX = 216;

export type SheetFilter = 'all' | 'stale' | 'findings' | 'briefs' | 'empty';

/** The Sheet's behaviour: which rows show, where the cursor is, which range is chosen, and what keys do. */
export class SheetState {
  scroll = $state(0);
  height = $state(600);
  /** The cursor's column: -1 is the shot itself. */
  column = $state(-1);
  /** The other end of the chosen range, a shot's index; null when one shot is chosen. */
  from = $state<number | null>(null);
  drag = $state<{ column: number; from: number; to: number } | null>(null);
  editing = $state<string | null>(null);
  popover = $state<{ thread: string; shots: string[] } | null>(null);

  /** Which shots are shown. */
  filter = $state<SheetFilter>('all');
  /** Only shots through which this thread runs. */
  through = $state<string | null>(null);

  readonly columns = $derived.by(() => {
    const hidden = new Set(this.project.row?.hidden_columns ?? []);
    return this.project.columns.filter((t) => !hidden.has(t.id));
  });
  readonly shown = $derived.by(() => {
    const { project, filter, through } = this;
    if (filter === 'all' && !through) return project.order;
    return project.order.filter((s) => {
      if (through && !project.bead(s.id, through)) return false;
      if (filter === 'stale') return project.findings.take.openByShot.has(s.id);
      if (filter === 'findings') return (project.findings.check.openByShot.get(s.id)?.length ?? 0) > 0;
      if (filter === 'briefs') return project.findings.brief.openByShot.has(s.id);
      if (filter === 'empty') return !project.picked.has(s.id);
      return true;
    });
  });
  readonly shownIndex = $derived(new Map(this.shown.map((s, i) => [s.id, i])));
  readonly currentIndex = $derived.by(() => this.shownIndex.get(this.project.currentId ?? '') ?? -1);
  readonly rows = $derived.by(() => sheetRows(this.project.story.scenes, this.shown, (id) => this.project.number(id)));
  readonly edges = $derived(tops(this.rows));
  readonly rowOfShot = $derived.by(() => {
    const by: number[] = [];
    this.rows.forEach((row, i) => row.kind === 'shot' && by.push(i));
    return by;
  });
  readonly centres = $derived.by(() => columnCentres(this.columns));
  readonly first = $derived(rowAt(this.edges, Math.max(0, this.scroll - OVERSCAN_PX)));
  readonly last = $derived(rowAt(this.edges, this.scroll + this.height + OVERSCAN_PX));
  /** Rows with their places; each stays the same while rows do, so that scrolling redraws none that is on the page already. */
  readonly #placed = $derived(this.rows.map((row, index) => ({ row, index })));
  readonly visible = $derived(this.#placed.slice(this.first, this.last + 1));
  readonly range = $derived.by((): [number, number] => {
    const at = this.currentIndex;
    return this.from === null ? [at, at] : [Math.min(at, this.from), Math.max(at, this.from)];
  });

  constructor(readonly project: ProjectState) {}

  top(index: number): number {
    return this.edges[index] ?? 0;
  }

  centreOfShot(shotIndex: number): number {
    return this.top(this.rowOfShot[shotIndex] ?? 0) + SHOT_PX / 2;
  }

  /** The shot (by its index) at a height of the sheet; a scene's heading counts as the shot below it. */
  shotAt(y: number): number {
    const row = rowAt(this.edges, y);
    const at = this.rowOfShot.findIndex((r) => r >= row);
    return at < 0 ? this.rowOfShot.length - 1 : at;
  }

  /** Shots by their places among those shown; none when the range begins at a shot that is not shown. */
  shotIds([a, b]: [number, number]): string[] {
    if (a < 0) return [];
    return this.shown.slice(a, b + 1).map((s) => s.id);
  }

  /** How far to scroll so that a shot can be seen; null when it can be seen. */
  scrollTo(shotIndex: number): number | null {
    const top = this.top(this.rowOfShot[shotIndex] ?? 0);
    if (top < this.scroll + 2) return Math.max(0, top - 40);
    if (top + SHOT_PX > this.scroll + this.height) return top + SHOT_PX - this.height + 20;
    return null;
  }

  toggle(column: number, range: [number, number]) {
    const thread = this.columns[column];
    if (!thread) return;
    const shots = this.shotIds(range);
    const on = !shots.every((id) => this.project.bead(id, thread.id));
    return this.run(thread.id, shots, on);
  }

  run(thread: string, shot_ids: string[], on: boolean) {
    return shot_ids.length ? this.project.run(thread, shot_ids, on) : undefined;
  }

  endDrag() {
    const drag = this.drag;
    this.drag = null;
    if (!drag) return;
    const thread = this.columns[drag.column]!;
    const range: [number, number] = [Math.min(drag.from, drag.to), Math.max(drag.from, drag.to)];
    const shot = this.shown[drag.from]!;
    if (drag.from === drag.to && this.project.bead(shot.id, thread.id)) this.popover = { thread: thread.id, shots: [shot.id] };
    else void this.toggle(drag.column, range);
  }

  shotCommand(command: 'insert' | 'split' | 'merge-up' | 'up' | 'down' | 'delete', id = this.project.currentId) {
    if (!id) return;
    const project_id = this.project.id;
    const path = { project_id, shot_id: id };
    if (command === 'insert') {
      const known = new Set(this.project.shots.keys());
      return this.project
        .send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/insert', { params: { path } }))
        .then((changed) => {
          const made = changed?.rows.shot?.find((s) => !known.has(s.id));
          if (made) {
            this.project.currentId = made.id;
            this.editing = made.id;
          }
        });
    }
    if (command === 'split')
      return this.project.send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/split', { params: { path }, body: {} }));
    if (command === 'merge-up') {
      const before = this.project.order[(this.project.indexOf.get(id) ?? 0) - 1];
      return this.project
        .send(() => api.POST('/api/projects/{project_id}/shots/{shot_id}/merge-up', { params: { path } }))
        .then((done) => done && before && (this.project.currentId = before.id));
    }
    if (command === 'delete') {
      const at = this.shown.findIndex((x) => x.id === id);
      const ids = id === this.project.currentId ? this.shotIds(this.range) : [id];
      const next = this.shown[at + ids.length] ?? this.shown[Math.max(0, this.range[0] - 1)];
      return this.project
        .send(() => api.POST('/api/projects/{project_id}/shots/delete', { params: { path: { project_id } }, body: { shot_ids: ids } }))
        .then(() => {
          this.from = null;
          if (next && this.project.shots.has(next.id)) this.project.currentId = next.id;
        });
    }
    return this.project.send(() =>
      api.POST('/api/projects/{project_id}/shots/{shot_id}/move', { params: { path }, body: { step: command === 'up' ? -1 : 1 } }),
    );
  }

  /** What was chosen, for the clipboard: a range of a column, or whole shots with their threads. */
  async copied(): Promise<SheetClip | null> {
    const shots = this.shotIds(this.range);
    if (!shots.length) return null;
    const thread = this.columns[this.column];
    if (thread) {
      const beads = shots.map((id) => {
        const b = this.project.bead(id, thread.id);
        return b ? { hold: b.hold, weight: b.weight, costume: b.costume } : null;
      });
      return { juxtaform: 'column', beads };
    }
    const got = await ok(api.GET('/api/projects/{project_id}/shots/copied', { params: { path: { project_id: this.project.id }, query: { shots } } }));
    return { juxtaform: 'shots', shots: got as Schemas['ShotCopy'][] };
  }

  /** Lay a clip down: a column's range from the cursor on (over the chosen range, if one is), shots after the cursor. */
  paste(clip: SheetClip) {
    const path = { project_id: this.project.id };
    if (clip.juxtaform === 'shots')
      return this.project.send(() => api.POST('/api/projects/{project_id}/shots/paste', { params: { path }, body: { after_shot_id: this.project.currentId, shots: clip.shots } }));
    const thread = this.columns[this.column];
    const [first, end] = this.range;
    const shot = this.shown[first];
    if (!thread || !shot) return;
    const length = this.from !== null && end > first ? end - first + 1 : 0;
    return this.project.send(() =>
      api.PUT('/api/projects/{project_id}/threads/{thread_id}/column', {
        params: { path: { ...path, thread_id: thread.id } }, body: { first_shot_id: shot.id, beads: clip.beads, length },
      }),
    );
  }

  /** Do what a key means on the Sheet; false when it means nothing here. */
  key(event: KeyboardEvent): boolean {
    const { project } = this;
    const last = this.shown.length - 1;
    if (last < 0) return false;
    const move = (to: number, extend: boolean) => {
      const at = this.currentIndex;
      this.from = extend ? (this.from ?? at) : null;
      project.currentId = this.shown[Math.min(last, Math.max(0, to))]!.id;
    };
    const at = this.currentIndex;
    switch (event.key) {
      case 'ArrowDown':
        if (event.altKey) void this.shotCommand('down');
        else move(at + 1, event.shiftKey);
        return true;
      case 'ArrowUp':
        if (event.altKey) void this.shotCommand('up');
        else move(at - 1, event.shiftKey);
        return true;
      case 'PageDown':
        move(at + 8, event.shiftKey);
        return true;
      case 'PageUp':
        move(at - 8, event.shiftKey);
        return true;
      case 'Home':
        move(0, event.shiftKey);
        return true;
      case 'End':
        move(last, event.shiftKey);
        return true;
      case 'ArrowRight':
        this.column = Math.min(this.columns.length - 1, this.column + 1);
        return true;
      case 'ArrowLeft':
        this.column = Math.max(-1, this.column - 1);
        return true;
      case ' ':
        if (this.column >= 0) void this.toggle(this.column, this.range);
        return this.column >= 0;
      case 'Enter': {
        const thread = this.columns[this.column];
        if (!thread) this.editing = project.currentId;
        else {
          const shots = this.shotIds(this.range).filter((id) => project.bead(id, thread.id));
          if (shots.length) this.popover = { thread: thread.id, shots };
          else void this.toggle(this.column, this.range);
        }
        return true;
      }
      case 'Delete':
      case 'Backspace':
        if (this.column >= 0) void this.run(this.columns[this.column]!.id, this.shotIds(this.range), false);
        else void this.shotCommand('delete');
        return true;
      case 'Escape':
        this.from = null;
        this.drag = null;
        return true;
    }
    if ((event.ctrlKey || event.metaKey) && event.key === 'a') {
      project.currentId = this.shown[0]!.id;
      this.from = last;
      return true;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return false;
    if (event.key === 'n') void this.shotCommand('insert');
    else if (event.key === 'x') void this.shotCommand('split');
    else if (event.key === 'm') void this.shotCommand('merge-up');
    else return false;
    return true;
  }
}

export type VisibleRow = { row: SheetRow; index: number };

/** What the Sheet puts on the clipboard. */
export type SheetClip =
  | { juxtaform: 'column'; beads: (Pick<Bead, 'hold' | 'weight' | 'costume'> | null)[] }
  | { juxtaform: 'shots'; shots: Schemas['ShotCopy'][] };

/** A clip from the clipboard's words, or null when they are something else. */
export function clipFrom(words: string): SheetClip | null {
  if (!words.startsWith('{')) return null;
  try {
    const clip = JSON.parse(words) as SheetClip;
    return (clip.juxtaform === 'column' && Array.isArray(clip.beads)) || (clip.juxtaform === 'shots' && Array.isArray(clip.shots)) ? clip : null;
  } catch {
    return null;
  }
}
