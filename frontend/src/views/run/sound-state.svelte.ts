import { api, ok, sendFile, type Changed, type LineView, type Sound, type SoundFacts, type SoundHeard, type SoundKind, type SoundNote, type SoundTrack } from '../../api/client';
import { notices } from '../../lib/notices.svelte';
import type { NamedFile } from '../../lib/files';
import type { ProjectState } from '../../lib/project.svelte';
import { MOST_S, Recording } from './recorder';
import type { RunState } from './run-state.svelte';
import { SoundPlayer } from './sound-player';
import { laidSounds, lanes, type LaidSound } from './sounds';
import { spanAt } from './timeline';

const READ_AFTER_MS = 250;
/** A file that is longer is music until somebody says what it is. */
const MUSIC_S = 15;

/** A line of a shot, and its place among all lines. */
export interface LineAt {
  shot: string;
  place: number;
  line: LineView;
}

/** What sounds in the run-through: sounds as they lie, the one that is looked at, lines and their takes, recording. */
export class SoundState {
  track = $state.raw<SoundTrack>({ sounds: [], shots: [], notes: [] });
  /** The sound that is looked at. */
  chosen = $state<string | null>(null);
  coming = $state(0);
  recording = $state.raw<Recording | null>(null);
  /** How the recording goes: its level, its seconds, whether it clipped. */
  meter = $state({ level: 0, seconds: 0, clipped: false });
  asking = $state(false);
  lineAt = $state(0);
  /** The take that is heard alone just now. */
  listening = $state<string | null>(null);
  readonly levels = $state.raw(new Map<string, Int16Array>());
  readonly player = new SoundPlayer((words) => notices.say(words, 'trouble'));
  #alone = new SoundPlayer((words) => notices.say(words, 'trouble'));
  #read: ReturnType<typeof setTimeout> | undefined;
  #reads = 0;
  #ends: ReturnType<typeof setTimeout> | undefined;

  readonly project: ProjectState;
  readonly heard = $derived(new Map(this.track.sounds.map((h: SoundHeard) => [h.id, h] as const)));
  readonly laid = $derived.by(() => laidSounds(this.project.sounds.values(), this.heard, this.run.spans));
  /** Voices beside each other, and what else sounds beside them. */
  readonly lanes = $derived.by(() => {
    const voices = lanes(this.laid.filter((x) => x.sound.kind === 'voice'));
    const first = this.laid.some((x) => x.sound.kind === 'voice') ? 1 + Math.max(0, ...voices.values()) : 0;
    const others = lanes(this.laid.filter((x) => x.sound.kind !== 'voice'));
    return new Map([...voices, ...[...others].map(([id, lane]) => [id, lane + first] as const)]);
  });
  readonly laidLanes = $derived(1 + Math.max(-1, ...this.lanes.values()));
  readonly sound = $derived.by(() => (this.chosen ? this.project.sounds.get(this.chosen) : undefined));
  readonly lines = $derived(this.track.shots.flatMap((s) => s.lines.map((line, place): LineAt => ({ shot: s.shot_id, place, line }))));
  readonly line = $derived(this.lines[Math.min(this.lineAt, this.lines.length - 1)]);
  readonly unsaid = $derived(this.lines.filter((l) => !l.line.takes.length).length);
  /** How long it takes, in s, until all is said in a shot that has a voice. */
  readonly said = $derived(new Map(this.track.shots.filter((s) => s.said_s).map((s) => [s.shot_id, s.said_s] as const)));
  readonly #worded = $derived(new Set(this.track.shots.map((s) => s.shot_id)));

  constructor(readonly run: RunState) {
    this.project = run.project;
  }

  /** Read all that sounds again soon; many changes are one reading. */
  readSoon(wait_ms = READ_AFTER_MS) {
    clearTimeout(this.#read);
    this.#read = setTimeout(() => void this.load(), wait_ms);
  }

  async load() {
    const asked = ++this.#reads;
    try {
      const told = (await ok(api.GET('/api/projects/{project_id}/sound-track', { params: { path: { project_id: this.project.id } } }))) as SoundTrack;
      if (asked !== this.#reads) return;
      this.track = told;
      void this.#learn();
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error), 'trouble');
    }
  }

  /** By how much the voice of a shot outruns it, as lengths stand on screen, in s: it may run on over shots of its scene without words and voice. */
  over(shot: string): number {
    const said = this.said.get(shot);
    const { spans } = this.run;
    const at = said === undefined ? -1 : spans.findIndex((s) => s.id === shot);
    if (at < 0) return 0;
    let room = spans[at]!.length_s;
    for (let i = at + 1; i < spans.length && spans[i]!.scene === spans[at]!.scene && !this.#worded.has(spans[i]!.id); i++) room += spans[i]!.length_s;
    return Math.max(0, said! - room);
  }

  /** Fetch the levels of sounds that are not known yet. */
  async #learn() {
    const wanted = new Set([...this.project.sounds.values()].map((s) => s.sound_sha).filter((sha) => !this.levels.has(sha)));
    for (const sha of wanted) {
      const answer = await fetch(`/api/sounds/${sha}/levels`).catch(() => null);
      if (!answer?.ok) continue;
      this.levels.set(sha, new Int16Array(await answer.arrayBuffer()));
      this.known++;
    }
  }
  /** Rises whenever the levels of another sound are known. */
  known = $state(0);

  /** Lay sound files where the red line stands. */
  async lay(files: readonly NamedFile[]) {
    const span = this.run.span;
    if (!span) return;
    const start_s = Math.round((this.run.player.time_s - span.start_s) * 100) / 100;
    for (const { file, name } of files) {
      this.coming++;
      try {
        const seconds = await lengthOf(file);
        const kind: SoundKind = seconds > MUSIC_S ? 'music' : 'effect';
        const changed = await this.#send(file, { shot_id: span.id, name: name.split('/').at(-1)!, kind, start_s: String(start_s) });
        this.chosen = fresh(changed);
      } catch (error) {
        notices.say(`“${name}”: ${error instanceof Error ? error.message : String(error)}`, 'trouble');
      }
      this.coming--;
    }
  }

  async #send(file: File, fields: Record<string, string>): Promise<Changed> {
    const changed = await sendFile<Changed>(`/api/projects/${this.project.id}/sounds`, file, fields);
    await this.project.receive(changed);
    return changed;
  }

  edit(sound: Sound, values: SoundFacts) {
    return this.project.edit(sound, (revision) => api.PATCH('/api/projects/{project_id}/sounds/{sound_id}', { ...this.#of(sound.id), body: { ...values, revision } }));
  }

  /** Let a sound begin at a moment of the whole. A line stays with its shot; what else sounds goes with the shot under which it begins. */
  moveTo(sound: Sound, time_s: number) {
    const at = Math.max(0, time_s);
    const { spans } = this.run;
    const span = sound.kind === 'voice' && sound.line ? spans.find((s) => s.id === sound.shot_id) : spans[spanAt(spans, at)];
    if (!span) return null;
    const start_s = Math.round((at - span.start_s) * 100) / 100;
    return this.edit(sound, { start_s, ...(span.id === sound.shot_id ? {} : { shot_id: span.id }) });
  }

  async remove(id: string) {
    if (this.chosen === id) this.chosen = null;
    const done = await this.project.send(() => api.DELETE('/api/projects/{project_id}/sounds/{sound_id}', this.#of(id)));
    if (done) notices.say(`${done.label.charAt(0).toUpperCase()}${done.label.slice(1)}. Undo brings it back.`);
  }

  pick(id: string) {
    return this.project.send(() => api.POST('/api/projects/{project_id}/sounds/{sound_id}/pick', this.#of(id)));
  }

  trimSilence(id: string) {
    const sound = this.project.sounds.get(id);
    if (!sound) return;
    return this.project.edit(sound, (revision) => api.POST('/api/projects/{project_id}/sounds/{sound_id}/trim-silence', { ...this.#of(id), body: { revision } }));
  }

  /** Let the lengths of some shots, or of all, follow their voice. */
  async followVoice(shot_ids: string[] | null, shorten = false) {
    await this.run.keep();
    const done = await this.project.send(() => api.POST('/api/projects/{project_id}/follow-voice', { params: { path: { project_id: this.project.id } }, body: { shot_ids, shorten } }));
    if (done) notices.say(`${done.label.charAt(0).toUpperCase()}${done.label.slice(1)}.`);
  }

  /** Mend what a note tells. */
  async mend(note: SoundNote) {
    if (note.mend === 'give time') await this.followVoice([note.shot]);
    else if (note.mend === 'take the silence off') await this.trimSilence(note.sounds[0]!);
    else if (note.mend === 'turn down') await this.project.send(() => api.POST('/api/projects/{project_id}/turn-down', { params: { path: { project_id: this.project.id } }, body: { at_s: note.at_s } }));
  }

  /** Go to where a note is heard. */
  goTo(note: SoundNote) {
    this.run.player.stop();
    this.run.player.seek(note.at_s);
    this.chosen = note.sounds[0] ?? null;
  }

  /** The line after or before; the picture goes along. */
  stepLine(by: number) {
    if (this.recording || !this.lines.length) return;
    this.goToLine(Math.min(Math.max(0, this.lineAt + by), this.lines.length - 1));
  }

  goToLine(at: number) {
    this.lineAt = at;
    this.run.goTo(this.lines[at]?.shot);
  }

  /** Go to the first line of a shot, unless one of its lines is before us already. */
  toShot(shot: string | undefined) {
    if (this.recording || !shot || this.line?.shot === shot) return;
    const at = this.lines.findIndex((l) => l.shot === shot);
    if (at >= 0) this.lineAt = at;
  }

  /** Record the line that is before us, or end the recording. */
  async record() {
    if (this.asking) return;
    if (this.recording) return this.endRecording();
    this.run.player.stop();
    this.hush();
    this.asking = true;
    try {
      this.meter = { level: 0, seconds: 0, clipped: false };
      this.recording = await Recording.begin((r) => {
        this.meter = { level: r.level, seconds: r.seconds, clipped: r.clipped };
        if (r.seconds >= MOST_S && this.recording === r) void this.endRecording();
      });
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error), 'trouble');
    } finally {
      this.asking = false;
    }
  }

  /** Put away what is being recorded. */
  async dropRecording() {
    const recording = this.recording;
    this.recording = null;
    await recording?.end();
  }

  async endRecording() {
    const [recording, at] = [this.recording, this.line];
    this.recording = null;
    if (!recording || !at) return;
    const sound = await recording.end();
    const { shot, line, place } = at;
    const name = `Shot ${this.project.number(shot)}, take ${line.takes.length + 1}`;
    const fields: Record<string, string> = { shot_id: shot, name, kind: 'voice', line: line.words, place: String(place) };
    const who = line.thread_id ?? this.#lastVoice(line);
    if (who) fields.thread_id = who;
    this.coming++;
    try {
      await this.#send(new File([sound], `${name}.wav`, { type: 'audio/wav' }), fields);
      await this.load();
    } catch (error) {
      // What was said is not lost: the browser keeps it as a file.
      save(sound, `${name}.wav`);
      notices.say(`The recording could not be kept: ${error instanceof Error ? error.message : String(error)} It was saved as a file beside your downloads.`, 'trouble');
    } finally {
      this.coming--;
    }
  }

  #lastVoice(line: LineView): string | null {
    return this.project.sounds.get(line.takes.at(-1) ?? '')?.thread_id ?? null;
  }

  /** Hear one take alone; again: stop. */
  listen(id: string) {
    const again = this.listening === id;
    this.hush();
    const [sound, own] = [this.project.sounds.get(id), this.heard.get(id)];
    if (again || !sound || !own) return;
    this.run.player.stop();
    const seconds = Math.min(own.seconds, sound.to_s ?? own.seconds) - sound.from_s;
    const laid: LaidSound = { sound, start_s: 0, end_s: seconds };
    this.listening = id;
    const began = performance.now();
    const go = () => {
      const time_s = (performance.now() - began) / 1000;
      if (this.listening !== id) return;
      if (time_s >= seconds + 0.3) return this.hush();
      this.#alone.follow([laid], Math.min(time_s, seconds), true);
      this.#ends = setTimeout(go, 400);
    };
    go();
  }

  hush() {
    clearTimeout(this.#ends);
    this.#alone.stop();
    this.listening = null;
  }

  close() {
    clearTimeout(this.#read);
    void this.dropRecording();
    this.hush();
    this.player.close();
    this.#alone.close();
  }

  #of(sound_id: string) {
    return { params: { path: { project_id: this.project.id, sound_id } } };
  }
}

function fresh(changed: Changed): string | null {
  return changed.rows?.sound?.find((s) => s.revision === 1)?.id ?? null;
}

/** How long a sound file is, in s, as far as the browser can tell; 0 when it cannot. */
function lengthOf(file: File): Promise<number> {
  return new Promise((told) => {
    const url = URL.createObjectURL(file);
    const audio = new Audio();
    const end = (seconds: number) => {
      URL.revokeObjectURL(url);
      told(Number.isFinite(seconds) ? seconds : 0);
    };
    audio.onloadedmetadata = () => end(audio.duration);
    audio.onerror = () => end(0);
    setTimeout(() => end(0), 3000);
    audio.preload = 'metadata';
    audio.src = url;
  });
}

function save(sound: Blob, name: string) {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(sound);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
