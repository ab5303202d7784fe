/** Speeds that J and L step through. */
const SPEEDS = [1, 2, 4];

/** A stretch that is played over and over. */
export interface Loop {
  start_s: number;
  end_s: number;
}

/** Plays time: forwards, backwards, faster, step by step; counts frames that came too late to be seen. */
export class Player {
  time_s = $state(0);
  /** 0 stands still, below 0 runs backwards. */
  speed = $state(0);
  loop = $state.raw<Loop | null>(null);
  /** Frames of the plan that were to be seen at plain speed, and those of them that were not drawn in time. */
  due = $state(0);
  late = $state(0);
  readonly playing = $derived(this.speed !== 0);
  readonly frame = $derived.by(() => Math.floor(this.time_s * this.fps() + 1e-6));
  /** The time as the screen tells it: while it plays no oftener than a frame of the plan, so that a screen that is faster draws nothing in vain. */
  readonly shown_s = $derived.by(() => (this.playing ? this.frame / this.fps() : this.time_s));
  #last: number | null = null;
  #handle = 0;

  constructor(readonly length_s: () => number, readonly fps: () => number) {}

  /** Play or stand still; at the end it begins anew. */
  toggle() {
    if (this.playing) return this.stop();
    if (this.time_s >= this.length_s() - 1e-3) this.time_s = this.loop?.start_s ?? 0;
    this.#run(1);
  }

  /** Forwards, and faster when it runs forwards already; the same backwards. */
  shuttle(way: 1 | -1) {
    const now = Math.sign(this.speed) === way ? SPEEDS.indexOf(Math.abs(this.speed)) + 1 : 0;
    this.#run(way * SPEEDS[Math.min(now, SPEEDS.length - 1)]!);
  }

  stop() {
    this.speed = 0;
    this.#last = null;
    cancelAnimationFrame(this.#handle);
  }

  seek(time_s: number) {
    this.time_s = Math.min(Math.max(0, time_s), this.length_s());
    this.#last = null;
  }

  /** One frame on or back, to where a frame begins. */
  step(by: number) {
    this.stop();
    this.seek((this.frame + by) / this.fps());
  }

  /** Count from nothing. */
  countAnew() {
    this.due = this.late = 0;
  }

  /** A frame that could not be drawn as it should: its picture was not there yet. */
  missed() {
    if (this.speed === 1) this.late++;
  }

  #run(speed: number) {
    cancelAnimationFrame(this.#handle);
    if (!this.length_s()) return this.stop();
    this.speed = speed;
    this.#last = null;
    this.#handle = requestAnimationFrame((now) => this.tick(now));
  }

  /** A frame of the screen, at a time in ms. */
  tick(now: number) {
    if (!this.playing) return;
    const since = this.#last === null ? 0 : (now - this.#last) / 1000;
    this.#last = now;
    const before = this.frame;
    this.#go(this.time_s + since * this.speed);
    const gone = this.frame - before;
    if (this.speed === 1 && gone > 0) {
      this.due += gone;
      this.late += gone - 1;
    }
    if (this.playing) this.#handle = requestAnimationFrame((next) => this.tick(next));
  }

  #go(time_s: number) {
    const { loop } = this;
    const end = loop?.end_s ?? this.length_s();
    const start = loop?.start_s ?? 0;
    if (loop && loop.end_s > loop.start_s && (time_s >= end || time_s < start)) this.time_s = this.speed > 0 ? start : end - 1e-3;
    else if (time_s >= end || time_s <= start) {
      this.time_s = Math.min(Math.max(start, time_s), end);
      if ((this.speed > 0 && time_s >= end) || (this.speed < 0 && time_s <= start)) this.stop();
    } else this.time_s = time_s;
  }
}
