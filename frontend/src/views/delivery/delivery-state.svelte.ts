import { api, ok, sendFile, type Changed, type Delivery, type DeliveryKind, type DeliveryOptions, type Outgoing } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';

const KEPT = 'delivery options';
const REST_MS = 150;

export const USUAL: DeliveryOptions = { a_page: 6, form: 'mp4', height: 720, words: 'burnt in', sound: true, captions: 'vtt', placeholders: true };

/** What can be made, with what it is in a sentence. */
export const KINDS: readonly { kind: DeliveryKind; name: string; what: string }[] = [
  { kind: 'storyboard', name: 'Storyboard', what: 'A PDF to print: pictures with framing, moves and words.' },
  { kind: 'animatic', name: 'Animatic', what: 'A video of the run-through, with its moves, joins and sound.' },
  { kind: 'book', name: 'Book', what: 'A PDF for print, a page a page, with bleed and trim boxes.' },
  { kind: 'cover', name: 'Cover', what: 'A PDF for print: back, spine and front on one sheet, with bleed and trim boxes.' },
  { kind: 'dummy', name: 'Dummy to fold', what: 'The pages two by two on A4, to print on both sides, fold and staple.' },
  { kind: 'epub', name: 'E-book', what: 'EPUB 3 with fixed layout: the pages as in print, the words as text, read aloud where there is a voice.' },
  { kind: 'pictures', name: 'Numbered pictures', what: 'All picked pictures in their order, as they are, in a zip.' },
  { kind: 'cbz', name: 'Comic archive', what: 'A CBZ for readers of comics, a page a shot.' },
  { kind: 'timeline', name: 'Timeline', what: 'OpenTimelineIO with the pictures and sounds, for an editing program.' },
  { kind: 'cues', name: 'Cue sheet', what: 'Every sound with its timecodes, its shot, who speaks and what: a table (CSV).' },
  { kind: 'captions', name: 'Captions', what: 'All words in their time, for players and editors.' },
];

/** Files that are there at once, by links. */
export const AT_ONCE = [
  { name: 'Shot list, PDF', path: 'table.pdf' },
  { name: 'Shot list, CSV', path: 'table.csv' },
  { name: 'Continuity report, PDF', path: 'continuity-report.pdf' },
  { name: 'Continuity report, HTML', path: 'continuity-report.html' },
  { name: 'The whole project, bundle', path: 'bundle.zip' },
] as const;

/** The Delivery view's behaviour: what is missing, what is asked for, and what was made. */
export class DeliveryState {
  files = $state.raw<Delivery[]>([]);
  outgoing = $state.raw<Outgoing | null>(null);
  options = $state<DeliveryOptions>({ ...USUAL });
  read = $state(false);
  readonly open = $derived(this.files.filter((f) => f.state === 'running' || f.state === 'waiting'));
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(readonly project: ProjectState) {
    try {
      this.options = { ...USUAL, ...(JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<DeliveryOptions>) };
    } catch {
      // What was kept is not of our making; the usual options stand.
    }
  }

  /** Choose an option; it is chosen the next time too. */
  set(values: Partial<DeliveryOptions>) {
    this.options = { ...this.options, ...values };
    localStorage.setItem(KEPT, JSON.stringify(this.options));
  }

  /** Read the files again soon; many changes are one reading. */
  again() {
    this.#timer ??= setTimeout(() => {
      this.#timer = undefined;
      void this.load();
    }, REST_MS);
  }

  async load() {
    await this.#try(async () => {
      this.files = await ok(api.GET('/api/projects/{project_id}/deliveries', this.#params()));
      this.read = true;
    });
  }

  async look() {
    await this.#try(async () => {
      this.outgoing = await ok(api.GET('/api/projects/{project_id}/outgoing', this.#params()));
    });
  }

  async ask(kind: DeliveryKind) {
    await this.#try(() => ok(api.POST('/api/projects/{project_id}/deliveries', { ...this.#params(), body: { kind, options: this.options } })));
    await this.load();
  }

  async stop(file: Delivery) {
    await this.#try(() => ok(api.POST('/api/projects/{project_id}/deliveries/{delivery_id}/stop', this.#of(file))));
    await this.load();
  }

  async resume(file: Delivery) {
    await this.#try(() => ok(api.POST('/api/projects/{project_id}/deliveries/{delivery_id}/resume', this.#of(file))));
    await this.load();
  }

  async remove(file: Delivery) {
    await this.#try(() => ok(api.DELETE('/api/projects/{project_id}/deliveries/{delivery_id}', this.#of(file))));
    await this.load();
  }

  /** Take a file in: lengths and order from a timeline, or words from captions. */
  async bring(file: File) {
    const what = /\.otio$/i.test(file.name) ? 'timeline' : /\.(vtt|srt)$/i.test(file.name) ? 'captions' : null;
    if (!what) return notices.say(`“${file.name}” is neither a timeline (.otio) nor captions (.vtt, .srt).`, 'trouble');
    await this.#try(async () => {
      const changed = await sendFile<Changed>(`/api/projects/${this.project.id}/${what}/file`, file);
      await this.project.receive(changed);
      notices.say(changed.label.charAt(0).toUpperCase() + changed.label.slice(1));
    });
  }

  link(file: Delivery): string {
    return `/api/projects/${this.project.id}/deliveries/${file.id}/file`;
  }

  close() {
    clearTimeout(this.#timer);
  }

  #params() {
    return { params: { path: { project_id: this.project.id } } };
  }

  #of(file: Delivery) {
    return { params: { path: { project_id: this.project.id, delivery_id: file.id } } };
  }

  async #try(act: () => Promise<unknown>) {
    try {
      await act();
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error), 'trouble');
    }
  }
}

/** What a file is, with how it was made, in words. */
export function called(file: Delivery): string {
  const name = KINDS.find((k) => k.kind === file.kind)?.name ?? file.kind;
  const o = file.options;
  const how: Partial<Record<DeliveryKind, string>> = {
    storyboard: `${o.a_page} a page`,
    animatic: `${o.form === 'mp4' ? 'MP4' : 'WebM'}, ${o.height} lines, ${o.words === 'none' ? 'no words' : `words ${o.words}`}`,
    captions: o.captions === 'vtt' ? 'WebVTT' : 'SRT',
  };
  return how[file.kind] ? `${name}, ${how[file.kind]}` : name;
}

/** A size in words: 5.2 MB. */
export function size(bytes: number): string {
  if (bytes < 1000) return `${bytes} bytes`;
  return bytes < 1e6 ? `${Math.round(bytes / 1e3)} kB` : bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(2)} GB`;
}
