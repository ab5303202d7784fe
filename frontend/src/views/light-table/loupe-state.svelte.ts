import { api, ok, type Schemas } from '../../api/client';
import type { Laid } from '../../lib/on-table.svelte';
import { at, inverse, scaleOf, type Affine } from './geometry';

export type Reading = Schemas['UnderLoupe'];
const SAMPLE_PX = 4;

/** The table that a loupe lies on. */
interface Table {
  readonly project: { id: string };
  readonly laid: Laid[];
  readonly pegs: (Affine | null)[];
  readonly scale: number;
}

/** A loupe on the light table: it reads the same place in each picture, with and without the light of its scene. */
export class LoupeState {
  /** The place under it, in px of the first picture. */
  at = $state.raw<[number, number] | null>(null);
  readings = $state.raw<Reading[]>([]);
  #lights = $state.raw(new Map<string, Schemas['TakeLight']>());
  #reading = false;
  #readAgain = false;

  constructor(readonly table: Table) {}

  /** The light of the scene in a laid picture, where it was measured. */
  light(laid: Laid | undefined): Schemas['TakeLight'] | undefined {
    return laid?.take ? this.#lights.get(laid.take) : undefined;
  }

  /** Other pictures lie there now. */
  begin() {
    this.readings = [];
    void this.#readLights();
  }

  put(place: [number, number]) {
    this.at = place;
    this.read();
  }

  /** Read the colours under it; while an answer is under way only the newest place is asked for after it. */
  read() {
    if (!this.at) return;
    if (this.#reading) this.#readAgain = true;
    else void this.#readNow();
  }

  async #readNow() {
    this.#reading = true;
    do {
      this.#readAgain = false;
      const { laid } = this.table;
      try {
        const path = { project_id: this.table.project.id };
        const got = await ok(api.POST('/api/projects/{project_id}/loupe', { params: { path }, body: { places: laid.map((l, i) => this.#place(l, i)) } }));
        if (laid === this.table.laid) this.readings = got as Reading[];
      } catch {
        this.readings = []; // The loupe moves on, and asks again.
      }
    } while (this.#readAgain);
    this.#reading = false;
  }

  /** The place in a laid picture; one that is not laid anywhere is read outside of itself. */
  #place(laid: Laid, i: number) {
    const peg = this.table.pegs[i];
    const [x, y] = peg ? at(inverse(peg), ...this.at!) : [-1, -1];
    const light = this.light(laid)?.light;
    return {
      sha: laid.sha, x: round(x), y: round(y), radius: Math.min(400, round(SAMPLE_PX / this.table.scale / (peg ? scaleOf(peg) : 1))),
      light: light ? { gain: light.gain as [number, number, number], saturation: light.saturation, contrast: light.contrast } : null,
    };
  }

  async #readLights() {
    const take_ids = this.table.laid.flatMap((l) => (l.take && !this.#lights.has(l.take) ? [l.take] : []));
    if (!take_ids.length) return;
    try {
      const path = { project_id: this.table.project.id };
      const got = (await ok(api.POST('/api/projects/{project_id}/lights', { params: { path }, body: { take_ids } }))) as Schemas['TakeLight'][];
      this.#lights = new Map([...this.#lights, ...got.map((l) => [l.take_id, l] as const)]);
      this.read();
    } catch {
      // Without the lights the loupe reads colours as they are.
    }
  }
}

const round = (v: number) => Math.round(v * 100) / 100;
