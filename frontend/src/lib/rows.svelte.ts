import type { Bead, Beat, Changed, FaultMark, Mark, Picture, Project, Reference, Rows, Scene, Service, Shot, Sound, Stet, Take, TextPart, Thread, Trait, Trial } from '../api/client';
import { columnOrder, grouped, inOrder } from './order';
import { StoryText } from './story-text';

export type AnyRow = { id: string; revision: number };

const byPosition = (a: { position: number }, b: { position: number }) => a.position - b.position;

/** The rows of one project as the window holds them, and how they belong together. */
export class ProjectRows {
  title = $state('');
  row = $state.raw<Project | null>(null);
  target_s = $state<number | null>(null);
  textParts = $state.raw(new Map<string, TextPart>());
  beatRows = $state.raw(new Map<string, Beat>());
  scenes = $state.raw(new Map<string, Scene>());
  shots = $state.raw(new Map<string, Shot>());
  threads = $state.raw(new Map<string, Thread>());
  references = $state.raw(new Map<string, Reference>());
  traits = $state.raw(new Map<string, Trait>());
  beads = $state.raw(new Map<string, Bead>());
  takes = $state.raw(new Map<string, Take>());
  marks = $state.raw(new Map<string, Mark>());
  faultMarks = $state.raw(new Map<string, FaultMark>());
  services = $state.raw(new Map<string, Service>());
  sounds = $state.raw(new Map<string, Sound>());
  trials = $state.raw(new Map<string, Trial>());
  stets = $state.raw(new Map<string, Stet>());
  pictures = $state.raw(new Map<string, Picture>());

  readonly storyText = $derived(new StoryText(this.textParts.values()));
  readonly text = $derived(this.storyText.words);
  readonly story = $derived(inOrder(this.scenes.values(), this.shots.values()));
  readonly order = $derived(this.story.shots);
  readonly indexOf = $derived(new Map(this.order.map((s, i) => [s.id, i])));
  readonly columns = $derived(columnOrder(this.threads.values()));
  readonly length_s = $derived(this.order.reduce((sum, s) => sum + s.length_s, 0));
  readonly beadsByShot = $derived.by(() => {
    const by = new Map<string, Map<string, Bead>>();
    for (const bead of this.beads.values()) {
      let own = by.get(bead.shot_id);
      if (!own) by.set(bead.shot_id, (own = new Map()));
      own.set(bead.thread_id, bead);
    }
    return by;
  });
  readonly takesByShot = $derived(grouped([...this.takes.values()].sort(byPosition), (t) => t.shot_id));
  readonly picked = $derived(new Map([...this.takes.values()].filter((t) => t.picked).map((t) => [t.shot_id, t] as const)));
  readonly faultsByTake = $derived(grouped(this.faultMarks.values(), (m) => m.take_id));
  readonly serviceList = $derived([...this.services.values()].sort(byPosition));
  readonly trialsByShot = $derived(grouped([...this.trials.values()].sort(byPosition), (t) => t.shot_id));
  readonly marksByTake = $derived(grouped(this.marks.values(), (m) => m.take_id));
  readonly referencesByThread = $derived(grouped([...this.references.values()].sort(byPosition), (r) => r.thread_id));
  readonly traitsByThread = $derived(grouped([...this.traits.values()].sort(byPosition), (t) => t.thread_id));
  readonly beats = $derived([...this.beatRows.values()].sort(byPosition));
  readonly proposed = $derived(this.order.filter((s) => s.status === 'proposed'));
  readonly lost = $derived(this.order.filter((s) => s.lost));
  /** What was decided about findings: let stand, or to be made again. */
  readonly decidedByKey = $derived(new Map([...this.stets.values()].map((s) => [s.finding_key, s] as const)));
  readonly stetByKey = $derived(new Map([...this.decidedByKey].filter(([, s]) => s.verdict !== 'retake')));

  /** A row as it is held, by its table. */
  held(table: string, id: string): AnyRow | undefined {
    return table === 'project' ? (this.row ?? undefined) : this.#maps()[table]?.get(id);
  }

  bead(shot: string, thread: string): Bead | undefined {
    return this.beadsByShot.get(shot)?.get(thread);
  }

  number(shot: string | null | undefined): number {
    return (this.indexOf.get(shot ?? '') ?? -1) + 1;
  }

  pictureOf(shot: string | null | undefined): Picture | undefined {
    const take = this.picked.get(shot ?? '');
    return take && this.pictures.get(take.picture_sha);
  }

  /** The reference picture that stands for a thread: its anchor, else the heaviest; the newest version of it. */
  face(thread: string): Reference | undefined {
    const own = this.referencesByThread.get(thread) ?? [];
    const replaced = new Set(own.map((r) => r.replaces_id));
    const rank = (r: Reference) => (replaced.has(r.id) ? 0 : 4) + (r.anchor ? 2 : 0) + r.weight;
    return own.length ? own.reduce((a, b) => (rank(b) > rank(a) ? b : a)) : undefined;
  }

  /** Put rows and pictures in, and take rows out. */
  take(changed: Pick<Changed, 'rows' | 'gone' | 'pictures'>) {
    this.put(changed.rows);
    for (const [table, ids] of Object.entries(changed.gone)) this.#remove(table, ids);
    this.show(changed.pictures ?? []);
  }

  clear() {
    this.textParts = new Map();
    this.scenes = new Map();
    this.beatRows = new Map();
    this.shots = new Map();
    this.threads = new Map();
    this.references = new Map();
    this.traits = new Map();
    this.beads = new Map();
    this.takes = new Map();
    this.marks = new Map();
    this.faultMarks = new Map();
    this.services = new Map();
    this.trials = new Map();
    this.sounds = new Map();
    this.stets = new Map();
  }

  put(rows: Rows) {
    const project = rows.project?.[0];
    if (project) {
      this.title = project.title;
      this.target_s = project.target_s;
      this.row = project;
    }
    this.textParts = merged(this.textParts, rows.text_part);
    this.scenes = merged(this.scenes, rows.scene);
    this.beatRows = merged(this.beatRows, rows.beat);
    this.shots = merged(this.shots, rows.shot);
    this.threads = merged(this.threads, rows.thread);
    this.references = merged(this.references, rows.reference);
    this.traits = merged(this.traits, rows.trait);
    this.beads = merged(this.beads, rows.bead);
    this.takes = merged(this.takes, rows.take);
    this.marks = merged(this.marks, rows.mark);
    this.faultMarks = merged(this.faultMarks, rows.fault_mark);
    this.services = merged(this.services, rows.service);
    this.trials = merged(this.trials, rows.trial);
    this.sounds = merged(this.sounds, rows.sound);
    this.stets = merged(this.stets, rows.stet);
  }

  show(pictures: Picture[]) {
    if (!pictures.length) return;
    const next = new Map(this.pictures);
    for (const p of pictures) next.set(p.sha, p);
    this.pictures = next;
  }

  #maps(): Partial<Record<string, Map<string, AnyRow>>> {
    return {
      text_part: this.textParts, scene: this.scenes, beat: this.beatRows, shot: this.shots, thread: this.threads, reference: this.references, trait: this.traits,
      bead: this.beads, take: this.takes, mark: this.marks, fault_mark: this.faultMarks, service: this.services, trial: this.trials, sound: this.sounds, stet: this.stets,
    };
  }

  #remove(table: string, ids: string[]) {
    const without = <T>(map: Map<string, T>) => {
      const next = new Map(map);
      for (const id of ids) next.delete(id);
      return next;
    };
    if (table === 'text_part') this.textParts = without(this.textParts);
    else if (table === 'scene') this.scenes = without(this.scenes);
    else if (table === 'beat') this.beatRows = without(this.beatRows);
    else if (table === 'shot') this.shots = without(this.shots);
    else if (table === 'thread') this.threads = without(this.threads);
    else if (table === 'reference') this.references = without(this.references);
    else if (table === 'trait') this.traits = without(this.traits);
    else if (table === 'bead') this.beads = without(this.beads);
    else if (table === 'take') this.takes = without(this.takes);
    else if (table === 'mark') this.marks = without(this.marks);
    else if (table === 'fault_mark') this.faultMarks = without(this.faultMarks);
    else if (table === 'service') this.services = without(this.services);
    else if (table === 'trial') this.trials = without(this.trials);
    else if (table === 'sound') this.sounds = without(this.sounds);
    else if (table === 'stet') this.stets = without(this.stets);
  }
}

/** The map with newer rows put in; the same map when there are none. */
export function merged<T extends AnyRow>(map: Map<string, T>, rows: T[] | undefined): Map<string, T> {
  if (!rows?.length) return map;
  const next = new Map(map);
  for (const row of rows) {
    const held = next.get(row.id);
    if (!held || held.revision <= row.revision) next.set(row.id, row);
  }
  return next;
}
