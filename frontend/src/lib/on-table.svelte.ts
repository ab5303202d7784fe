import type { Take } from '../api/client';
import type { ProjectState } from './project.svelte';

export const MOST_LAID = 4;

/** A picture that lies on the light table, or can be laid there. */
export interface Laid {
  sha: string;
  name: string;
  width: number;
  height: number;
  /** The take that it is of; who stands where is known by its marks. */
  take?: string;
  /** The thread that it is a reference of: it shows this figure alone. */
  thread?: string;
}

/** What lies on the light table. Any view with pictures says which of them are meant; one key lays these there. */
export class OnTable {
  open = $state(false);
  /** What it was opened for besides looking: to change an area. */
  purpose = $state<'look' | 'area'>('look');
  laid = $state.raw<Laid[]>([]);
  #offers: (() => Laid[])[] = [];

  constructor(readonly project: ProjectState) {}

  /** Say which pictures of a view are meant, as long as it is there; call what comes back when it goes. */
  offer(meant: () => Laid[]): () => void {
    this.#offers = [...this.#offers, meant];
    return () => void (this.#offers = this.#offers.filter((o) => o !== meant));
  }

  /** Open the table with some pictures; without any with those that the view means, else the current shot's beside its neighbour's. */
  lay(laid: Laid[] = this.#meant(), purpose: 'look' | 'area' = 'look') {
    if (!laid.length) return;
    this.purpose = purpose;
    this.laid = unlike(laid).slice(0, MOST_LAID);
    this.open = true;
  }

  close() {
    this.open = false;
  }

  #meant(): Laid[] {
    const meant = unlike(this.#offers.at(-1)?.() ?? []);
    const beside = this.neighbours();
    return meant.length > 1 ? meant : meant.length ? [...meant, ...beside.filter((l) => l.sha !== meant[0]!.sha).slice(0, 1)] : beside;
  }

  /** The picked pictures of the shot before and of the current one; of the next one where there is none before. */
  neighbours(): Laid[] {
    const { order, currentIndex, picked } = this.project;
    const pictured = order.map((s) => picked.get(s.id)).filter((t) => t !== undefined);
    const own = pictured.findIndex((t) => t.shot_id === order[currentIndex]?.id);
    const at = own >= 0 ? own : pictured.findIndex((t) => this.project.number(t.shot_id) > currentIndex);
    const two = at > 0 ? [pictured[at - 1], pictured[at]] : pictured.slice(0, 2);
    return two.flatMap((t) => (t ? this.ofTake(t) : []));
  }

  /** A take's picture; none where its size is not known. */
  ofTake(take: Take): Laid[] {
    const { project } = this;
    const picture = project.pictures.get(take.picture_sha);
    const all = project.takesByShot.get(take.shot_id) ?? [];
    const number = all.length > 1 ? `, take ${all.findIndex((t) => t.id === take.id) + 1}` : '';
    return picture ? [{ sha: picture.sha, name: `shot ${project.number(take.shot_id)}${number}`, width: picture.width, height: picture.height, take: take.id }] : [];
  }

  /** A reference picture of a thread. */
  ofReference(sha: string, thread: string, name: string): Laid[] {
    const picture = this.project.pictures.get(sha);
    const of = this.project.threads.get(thread)?.name ?? '';
    return picture ? [{ sha, name: [of, name].filter(Boolean).join(', '), width: picture.width, height: picture.height, thread }] : [];
  }

  /** The picked picture of a shot. */
  ofShot(shot: string | null | undefined): Laid[] {
    const take = this.project.picked.get(shot ?? '');
    return take ? this.ofTake(take) : [];
  }
}

function unlike(laid: Laid[]): Laid[] {
  return laid.filter((l, i) => laid.findIndex((o) => o.sha === l.sha) === i);
}
