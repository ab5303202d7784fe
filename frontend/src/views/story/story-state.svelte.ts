import { api, sendFile, type Changed, type Shot, type Thread } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { ProjectState } from '../../lib/project.svelte';
import { characters, difference } from '../../lib/story-text';
import { byWord, type Marked, type Stretch } from './text-page';

const SAVE_AFTER_MS = 700;

/** The Story view's behaviour: typing is kept as it goes, proposals are settled, brackets moved. */
export class StoryState {
  /** Typed and not yet kept. */
  dirty = $state(false);
  saving = $state(false);
  text: () => string = () => this.project.text;
  reveal: (shot: string) => void = () => undefined;
  #draft = '';
  /** The text that the draft goes on from, and its revision. */
  #base = '';
  #seen: number | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;

  readonly #unkept = () => this.dirty;

  constructor(readonly project: ProjectState) {
    project.unkept.add(this.#unkept);
  }

  typed(text: string) {
    if (text === this.project.text && !this.saving) {
      // What was typed is deleted again before it was kept.
      clearTimeout(this.#timer);
      this.dirty = false;
      return;
    }
    this.#draft = text;
    if (!this.dirty) this.#goOn();
    this.dirty = true;
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => void this.keep(), SAVE_AFTER_MS);
  }

  /** Keep what was typed; typing may go on meanwhile. Returns whether all that was typed is kept. */
  async keep(): Promise<boolean> {
    clearTimeout(this.#timer);
    if (!this.dirty) return true;
    if (this.saving) return false;
    this.saving = true;
    const text = this.#draft;
    const params = { path: { project_id: this.project.id } };
    const typed = this.#typed(text);
    const done = await this.project.send((theirs) =>
      typed && !theirs
        ? api.PATCH('/api/projects/{project_id}/text', { params, body: typed })
        : api.PUT('/api/projects/{project_id}/text', { params, body: { text, seen: theirs?.text_revision ?? this.#seen } }),
    );
    this.saving = false;
    if (done && this.project.text === text) this.#goOn();
    const conflict = this.project.edits.conflict;
    if (!done && conflict && 'text' in conflict.mine) {
      conflict.mine.text = text;
      conflict.settled = () => (this.dirty = false);
    }
    if (done && this.#draft === text) this.dirty = false;
    else if (done) this.#timer = setTimeout(() => void this.keep(), SAVE_AFTER_MS);
    if (!this.project.reading || done) this.project.readStory();
    return !!done && !this.dirty;
  }

  /** What is typed from here on goes on from the text as it is. */
  #goOn() {
    this.#base = this.project.text;
    this.#seen = this.project.row?.text_revision ?? null;
  }

  /** What was typed, as the place that changed. */
  #typed(text: string) {
    if (this.#seen === null) return null;
    const { from, to, put } = difference(this.#base, text);
    return { at: characters(this.#base.slice(0, from)), gone: characters(this.#base.slice(from, to)), put, seen: this.#seen };
  }

  /** Whoever leaves the page leaves nothing behind. */
  flush() {
    if (this.dirty) void this.keep();
    this.project.unkept.delete(this.#unkept);
  }

  async propose(start?: number, end?: number) {
    if (!(await this.keep()) && this.dirty) await this.keep();
    const done = await this.project.send(() =>
      api.POST('/api/projects/{project_id}/proposals', {
        params: { path: { project_id: this.project.id } },
        body: { start: this.#character(start), end: this.#character(end), seen: start === undefined ? null : this.#revision },
      }),
    );
    if (done && !done.rows.shot?.length) notices.say('Every word is in a shot already: nothing to propose.');
    const first = done?.rows.shot?.length ? this.project.proposed[0] : null;
    if (first) this.project.currentId = first.id;
    this.project.readStory(0);
  }

  /** Whether a proposal is accepted together with all others. */
  isSure(shot: { sure: number }): boolean {
    return shot.sure >= (this.project.reading?.sure_from ?? 0);
  }

  /** Proposals that begin where they do for sure, and those to look at. */
  get proposals(): { sure: Shot[]; doubtful: Shot[] } {
    const { proposed } = this.project;
    return { sure: proposed.filter((s) => this.isSure(s)), doubtful: proposed.filter((s) => !this.isSure(s)) };
  }

  /** Accept all that is sure; where nothing is, the rest. */
  acceptAll() {
    const { sure, doubtful } = this.proposals;
    return this.accept(sure.length ? null : doubtful.map((s) => s.id));
  }

  accept(shot_ids: string[] | null) {
    return this.project.send(() =>
      api.POST('/api/projects/{project_id}/proposals/accept', { params: { path: { project_id: this.project.id } }, body: { shot_ids } }),
    );
  }

  /** The text's revision that places on the page are of. */
  get #revision(): number | null {
    return this.project.row?.text_revision ?? null;
  }

  /** A place on the page as the server counts. */
  #character(at: number | undefined): number | null {
    return at === undefined ? null : this.project.storyText.character(at);
  }

  /** Let a shot cover the words between two places on the page. */
  cover(shot_id: string, from: number, to: number): Promise<Changed | null> {
    const text = this.project.storyText;
    return this.project.send(() =>
      api.PUT('/api/projects/{project_id}/shots/{shot_id}/span', {
        params: { path: { project_id: this.project.id, shot_id } },
        body: { start: text.character(from), end: text.character(to), seen: this.#revision },
      }),
    );
  }

  /** Move one end of the current shot's words by a word. */
  stretch(end: 'start' | 'end', step: 1 | -1) {
    const shot = this.project.current;
    const held = shot && this.project.storyText.stretch(shot);
    if (!held || this.dirty) return;
    const [a, b] = byWord(this.text(), ...held, end, step);
    if (a !== held[0] || b !== held[1]) void this.cover(shot.id, a, b);
  }

  /** The shot under the cursor becomes the current one. */
  cursorAt(at: number, spans: Stretch[]) {
    const here = spans.find((s) => s.from <= at && at <= s.to);
    if (here) this.project.currentId = here.id;
  }

  /** Split the shot under the cursor there; where no shot is, propose some for the words around it. */
  splitAt(at: number, marked: Marked): boolean {
    const shot = marked.spans.find((s) => s.from < at && at < s.to);
    if (shot) {
      void this.keep().then(() =>
        this.project.send(() =>
          api.POST('/api/projects/{project_id}/shots/{shot_id}/split', {
            params: { path: { project_id: this.project.id, shot_id: shot.id } },
            body: { at: this.#character(at), seen: this.#revision },
          }),
        ),
      );
      return true;
    }
    const gap = marked.gaps.find((g) => g.from <= at && at <= g.to && !g.twice);
    void (gap ? this.propose(gap.from, gap.to) : this.propose());
    return true;
  }

  /** Who may be in a proposed shot without a word: they are in the shots beside it. The likeliest; the next one once they are. */
  askedAbout(shot: Shot): Thread | undefined {
    if (shot.status !== 'proposed') return undefined;
    const asked = this.project.findings.needs.get(shot.id)?.also ?? [];
    return asked.flatMap((id) => (this.project.bead(shot.id, id) ? [] : (this.project.threads.get(id) ?? [])))[0];
  }

  /** Who is asked about is in a shot though its words do not say so. */
  isHere(shot: Shot) {
    const thread = this.askedAbout(shot);
    if (!thread) return;
    return this.project.send(() =>
      api.PUT('/api/projects/{project_id}/threads/{thread_id}/run', {
        params: { path: { project_id: this.project.id, thread_id: thread.id } },
        body: { shot_ids: [shot.id], on: true },
      }),
    );
  }

  toMotion(shot: Shot) {
    return this.project.send(() =>
      api.POST('/api/projects/{project_id}/shots/{shot_id}/to-motion', { params: { path: { project_id: this.project.id, shot_id: shot.id } } }),
    );
  }

  async takeInFile(file: File) {
    if (!(await this.keep()) && this.dirty) return;
    try {
      await this.project.receive(await sendFile<Changed>(`/api/projects/${this.project.id}/text/file`, file));
      notices.say(`Took in ${file.name}.`);
      this.project.readStory(0);
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  makeThreads(threads: { kind: 'character' | 'setting' | 'prop'; name: string }[]) {
    return this.project.send(() =>
      api.POST('/api/projects/{project_id}/found', { params: { path: { project_id: this.project.id } }, body: { threads } }),
    );
  }
}
