import { uniqueName } from './without-tls';
import { ApiError, named } from '../api/client';
import { notices } from './notices.svelte';

const AGAIN_MS = 1000;
const MOST_MS = 8000;
const UNKNOWN = 401;
/** No answer, the database away or busy, too many uploads, or who asks has to sign in again: the same request is good a little later. */
const AWAY = new Set([0, UNKNOWN, 502, 503, 504]);
export const isAway = (error: unknown) => error instanceof ApiError && AWAY.has(error.problem.status);
export const WAITS = 'Juxtaform does not answer. What you do is kept here, and sent as soon as it answers again. Is bin/start still running?';

/**
 * Changes on their way out: one after the other, in the order in which they were made. While nobody answers they wait and are sent
 * again, each under a name of its own, so that what was done already is not done twice.
 */
export class Outbox {
  waiting = $state(0);
  away = $state(false);
  #line: Promise<unknown> = Promise.resolve();
  #closed = false;

  send<T>(make: () => Promise<T>): Promise<T> {
    const name = uniqueName();
    this.waiting++;
    const sent = this.#line.then(() => this.#sent(name, make)).finally(() => this.waiting--);
    this.#line = sent.catch(() => undefined);
    return sent;
  }

  /** Nothing is sent again after this. */
  close() {
    this.#closed = true;
  }

  async #sent<T>(name: string, make: () => Promise<T>): Promise<T> {
    for (let wait = AGAIN_MS; ; wait = Math.min(MOST_MS, wait * 2)) {
      try {
        const got = await named(name, make);
        this.answered();
        return got;
      } catch (error) {
        const away = isAway(error);
        if (!away || this.#closed) {
          if (!away) this.answered();
          throw error;
        }
        this.missed(error);
        await new Promise((again) => setTimeout(again, wait));
      }
    }
  }

  /** Nobody answered; who has to sign in again is told so elsewhere. */
  missed(error: unknown) {
    if (error instanceof ApiError && error.problem.status === UNKNOWN) return;
    if (!this.away) notices.say(WAITS, 'trouble');
    this.away = true;
  }

  /** Somebody answered, whatever was asked. */
  answered() {
    if (!this.away) return;
    this.away = false;
    notices.dropText(WAITS);
    notices.say(this.waiting ? 'Juxtaform answers again. What waited is sent.' : 'Juxtaform answers again.');
  }
}

/** Ask for something until it is answered, or nobody wants it any more. */
export async function patiently<T>(make: () => Promise<T>, unwanted: () => boolean): Promise<T> {
  for (let wait = AGAIN_MS; ; wait = Math.min(MOST_MS, wait * 2)) {
    try {
      return await make();
    } catch (error) {
      if (!isAway(error) || unwanted()) throw error;
      await new Promise((again) => setTimeout(again, wait));
    }
  }
}
