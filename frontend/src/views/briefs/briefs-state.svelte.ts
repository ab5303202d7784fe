import { api, ok, type Finding, type Phrase, type Piece, type Profile, type ShotBrief } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';
import { copied } from '../../lib/without-tls';

/** What a brief is compared with; any other word is a shot's id. */
export type Against = 'none' | 'before' | 'sent' | 'plain' | (string & {});

/** The Briefs view: the current shot's brief, the finding at hand, and what it is compared with. */
export class BriefsState {
  brief = $state.raw<ShotBrief | null>(null);
  pieces = $state.raw<Piece[] | null>(null);
  against = $state<Against>('none');
  /** Why there is nothing to compare with. */
  nothing = $state('');
  editing = $state<string | null>(null);
  /** The phrase whose source is shown. */
  hovered = $state<string | null>(null);
  because = $state<string | null>(null);
  /** The brief by its parts, to be edited; as it will be sent; or the brief of what moves. */
  view = $state<'parts' | 'sent' | 'motion'>('parts');
  only = $state<'all' | 'findings' | 'stale' | 'edited'>('all');
  /** The services that briefs can be fitted to. */
  profiles = $state.raw<Profile[]>([]);
  #at = $state(0);

  readonly findings = $derived((this.brief?.findings ?? []) as Finding[]);
  readonly open = $derived(this.findings.filter((f) => !this.project.stetByKey.has(f.key)));
  readonly stood = $derived(this.findings.filter((f) => this.project.stetByKey.has(f.key)));
  readonly at = $derived(Math.min(this.#at, Math.max(0, this.open.length - 1)));
  readonly finding = $derived(this.open[this.at]);

  constructor(readonly project: ProjectState) {}

  /** Shots to list: settled ones, and of these what was asked for. */
  readonly listed = $derived.by(() =>
    this.project.order.filter((s) => {
      if (s.status !== 'settled') return false;
      if (this.only === 'findings') return this.project.findings.brief.openByShot.has(s.id);
      if (this.only === 'stale') return this.project.findings.take.openByShot.has(s.id);
      if (this.only === 'edited') return s.brief_edits.length > 0;
      return true;
    }),
  );

  async loadProfiles() {
    try {
      this.profiles = (await ok(api.GET('/api/projects/{project_id}/profiles', { params: { path: { project_id: this.project.id } } }))) as Profile[];
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  async load() {
    const shot_id = this.project.currentId;
    if (!shot_id || this.project.shots.get(shot_id)?.status !== 'settled') {
      this.brief = null;
      return;
    }
    const path = { project_id: this.project.id, shot_id };
    try {
      const brief = (await ok(api.GET('/api/projects/{project_id}/shots/{shot_id}/brief', { params: { path } }))) as ShotBrief;
      if (shot_id !== this.project.currentId) return;
      if (this.brief?.shot_id !== shot_id) this.#at = 0;
      this.brief = brief;
      await this.compare();
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  async compare() {
    const shot_id = this.project.currentId;
    this.nothing = '';
    if (this.against === 'none' || !shot_id) {
      this.pieces = null;
      return;
    }
    try {
      this.pieces = (await ok(
        api.GET('/api/projects/{project_id}/shots/{shot_id}/brief/difference', {
          params: { path: { project_id: this.project.id, shot_id }, query: { other: this.against } },
        }),
      )) as Piece[];
    } catch (error) {
      this.pieces = null;
      this.nothing = (error as Error).message;
    }
  }

  /** What moves in the shot whose brief is shown. */
  get motionNote(): string {
    return this.project.shots.get(this.brief?.shot_id ?? '')?.motion ?? '';
  }

  noteMotion(words: string) {
    const shot = this.project.shots.get(this.brief?.shot_id ?? '');
    return shot ? this.project.editShot(shot, { motion: words.trim() }) : null;
  }

  edit(key: string, now: string | null) {
    const shot_id = this.brief!.shot_id;
    this.editing = null;
    return this.project.send(() =>
      api.PUT('/api/projects/{project_id}/shots/{shot_id}/brief/phrase', { params: { path: { project_id: this.project.id, shot_id } }, body: { key, now } }),
    );
  }

  mend(finding: Finding | undefined) {
    if (!finding?.mend || !this.brief) return;
    const shot_id = this.brief.shot_id;
    return this.project.send(() =>
      api.POST('/api/projects/{project_id}/shots/{shot_id}/brief/mend', {
        params: { path: { project_id: this.project.id, shot_id } }, body: { key: finding.key },
      }),
    );
  }

  stet(key: string, reason: string) {
    this.because = null;
    return this.project.stand(key, reason);
  }

  async copy() {
    if (!this.brief) return;
    const motion = this.view === 'motion';
    if (!(await copied(motion ? this.brief.motion_text : this.brief.text)))
      return notices.say('The browser does not let go to the clipboard. Select the words and copy them.', 'trouble');
    notices.say(`The ${motion ? 'motion brief' : 'brief'} of shot ${this.brief.number} is on the clipboard.`);
    if (motion) return;
    await ok(api.POST('/api/projects/{project_id}/briefs/sent', { params: { path: { project_id: this.project.id } }, body: { shot_ids: [this.brief.shot_id] } })).catch(() => undefined);
    void this.compare();
  }

  /** To the next finding, over the shots that have one. */
  step(by: 1 | -1) {
    const next = this.at + by;
    if (next >= 0 && next < this.open.length) return void (this.#at = next);
    const order = this.project.order;
    for (let i = this.project.currentIndex + by; i >= 0 && i < order.length; i += by) {
      const count = this.project.findings.brief.openByShot.get(order[i]!.id)?.length ?? 0;
      if (!count) continue;
      this.project.currentId = order[i]!.id;
      this.#at = by > 0 ? 0 : count - 1;
      return;
    }
    notices.say(by > 0 ? 'No finding further down.' : 'No finding further up.');
  }

  choose(key: string) {
    this.#at = Math.max(0, this.open.findIndex((k) => k.key === key));
  }

  key(event: KeyboardEvent): boolean {
    if (event.ctrlKey || event.metaKey || event.altKey) return false;
    switch (event.key) {
      case ']': this.step(1); return true;
      case '[': this.step(-1); return true;
      case 'Enter':
        if (this.finding?.mend) void this.mend(this.finding);
        else if (this.brief) this.editing = 'action';
        return true;
      case 's':
        if (this.finding) this.because = this.finding.key;
        return true;
      case 'y': void this.copy(); return true;
      case 'e': this.editing = 'action'; return true;
      case 'a': this.editing = 'extra'; return true;
      case 'd':
        this.against = ({ none: 'before', before: 'sent', sent: 'plain' } as Record<string, Against>)[this.against] ?? 'none';
        void this.compare();
        return true;
      case 'ArrowDown': this.#shot(1); return true;
      case 'ArrowUp': this.#shot(-1); return true;
    }
    return false;
  }

  #shot(by: 1 | -1) {
    const at = this.listed.findIndex((s) => s.id === this.project.currentId);
    const next = this.listed[at + by];
    if (next) this.project.currentId = next.id;
  }
}

/** A phrase cut where findings underline it; the finding at hand is told apart. */
export function underlined(phrase: Phrase, findings: Finding[], at: string | undefined): { words: string; keys: string[]; now: boolean }[] {
  const own = findings.flatMap(({ key, words }) => {
    const { start = 0, end = 0 } = words ?? {};
    return words?.phrase === phrase.key && end > start && end <= phrase.text.length ? [{ key, start, end }] : [];
  });
  const cuts = [...new Set([0, phrase.text.length, ...own.flatMap((k) => [k.start, k.end])])].sort((a, b) => a - b);
  return cuts.slice(0, -1).map((from, i) => {
    const to = cuts[i + 1]!;
    const here = own.filter((k) => k.start <= from && k.end >= to);
    return { words: phrase.text.slice(from, to), keys: here.map((k) => k.key), now: here.some((k) => k.key === at) };
  });
}
