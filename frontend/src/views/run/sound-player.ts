import { bends, gainAt, type LaidSound } from './sounds';

const PART_S = 10;
/** So much is begun ahead of its time. */
const AHEAD_S = 2.5;
/** Decoded parts that are kept: about a hundred megabytes of stereo. */
const MOST_KEPT = 28;
/** The ear notices when a sound and its picture part by more (ITU-R BT.1359). */
const APART_S = 0.06;
/** What comes too late for its time begins so much from now: the clock goes on while it is made ready, and a time gone by would put it late. */
const LEAD_S = 0.03;

/** Plays the sounds that lie around a moment, part by part, so that an hour of music needs no more memory than a minute. */
export class SoundPlayer {
  #context: AudioContext | null = null;
  #parts = new Map<string, Promise<AudioBuffer | null>>();
  /** Parts that sound or are about to; those that are being fetched have no node yet. */
  #begun = new Map<string, AudioBufferSourceNode | null>();
  #laid: readonly LaidSound[] = [];
  #shape = '';
  /** When, by the clock of the sound, the whole began; none while nothing plays. */
  #zero: number | null = null;
  #run = 0;

  constructor(private readonly trouble: (words: string) => void) {}

  get playing(): boolean {
    return this.#zero !== null;
  }

  /** Keep up with the picture: it stands at a moment, and runs at plain speed or not. */
  follow(laid: readonly LaidSound[], time_s: number, runs: boolean) {
    if (!runs || (!laid.length && !this.playing)) return this.stop();
    const context = (this.#context ??= new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' }));
    if (context.state !== 'running') {
      // Its clock stands still until the browser lets it sound.
      this.stop();
      return void context.resume();
    }
    const shape = laid === this.#laid ? this.#shape : laid.map((x) => [x.sound.id, x.sound.sound_sha, x.start_s, x.end_s, x.sound.from_s, x.sound.gain_db, x.sound.fade_in_s, x.sound.fade_out_s].join()).join(';');
    const heard_s = this.#zero === null ? null : context.currentTime - this.#zero - this.#latency(context);
    if (heard_s === null || shape !== this.#shape || Math.abs(heard_s - time_s) > APART_S) {
      this.stop();
      this.#shape = shape;
      this.#zero = context.currentTime - time_s - this.#latency(context);
    }
    this.#laid = laid;
    this.#begin(context, time_s);
  }

  stop() {
    this.#run++;
    for (const node of this.#begun.values()) node?.stop();
    this.#begun.clear();
    this.#zero = null;
  }

  close() {
    this.stop();
    this.#parts.clear();
    void this.#context?.close();
    this.#context = null;
  }

  #latency(context: AudioContext): number {
    return Math.min(0.2, context.outputLatency || context.baseLatency || 0);
  }

  #begin(context: AudioContext, time_s: number) {
    const run = this.#run;
    for (const x of this.#laid) {
      if (x.end_s <= time_s || x.start_s > time_s + AHEAD_S) continue;
      const first = Math.floor((x.sound.from_s + Math.max(0, time_s - x.start_s)) / PART_S);
      const last = Math.floor((x.sound.from_s + Math.min(x.end_s, time_s + AHEAD_S) - x.start_s) / PART_S);
      for (let k = first; k <= last; k++) {
        const key = `${x.sound.id} ${k}`;
        if (this.#begun.has(key)) continue;
        // What is begun once is not begun again while its part is fetched.
        this.#begun.set(key, null);
        void this.#part(context, x.sound.sound_sha, k).then((buffer) => {
          if (buffer && run === this.#run) this.#play(context, key, buffer, x, k);
        });
      }
    }
  }

  #play(context: AudioContext, key: string, buffer: AudioBuffer, x: LaidSound, k: number) {
    if (this.#zero === null) return;
    const part_s = k * PART_S - x.sound.from_s + x.start_s;
    const from_s = Math.max(part_s, x.start_s, context.currentTime + LEAD_S - this.#zero);
    const to_s = Math.min(part_s + buffer.duration, x.end_s);
    if (to_s <= from_s) return;
    const node = context.createBufferSource();
    this.#begun.set(key, node);
    const gain = context.createGain();
    const zero = this.#zero;
    bends(x, from_s, to_s).forEach((t, i) => {
      const [value, at] = [gainAt(x, t), Math.max(0, t + zero)];
      if (i) gain.gain.linearRampToValueAtTime(value, at);
      else gain.gain.setValueAtTime(value, at);
    });
    node.buffer = buffer;
    node.connect(gain).connect(context.destination);
    node.start(from_s + zero, from_s - part_s, to_s - from_s);
  }

  #part(context: AudioContext, sha: string, k: number): Promise<AudioBuffer | null> {
    const key = `${sha} ${k}`;
    const known = this.#parts.get(key);
    if (known) {
      this.#parts.delete(key);
      this.#parts.set(key, known);
      return known;
    }
    const coming = fetch(`/api/sounds/${sha}/part?start=${k * PART_S}&seconds=${PART_S}`)
      .then(async (answer) => (answer.ok ? context.decodeAudioData(await answer.arrayBuffer()) : null))
      .catch(() => null)
      .then((buffer) => {
        if (!buffer) {
          this.#parts.delete(key);
          this.trouble('A sound could not be read. Look whether Juxtaform still runs.');
        }
        return buffer;
      });
    this.#parts.set(key, coming);
    while (this.#parts.size > MOST_KEPT) this.#parts.delete(this.#parts.keys().next().value!);
    return coming;
  }
}
