import { api, ok, type Ledger } from '../api/client';

const REST_MS = 800;

/** What was spent and is still to be spent, read again when jobs or picks change. */
export class LedgerState {
  ledger = $state.raw<Ledger | null>(null);
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly projectId: string,
    private readonly trouble: (error: unknown) => void,
  ) {}

  /** What is left of the month's allowance; null without one. */
  readonly left = $derived.by(() => {
    const month = this.ledger?.month;
    return month?.allowance == null ? null : month.allowance - month.spent - month.bound;
  });
  /** A few words for the top bar; empty while there is nothing to say. */
  readonly inShort = $derived.by(() => this.#inShort());

  #inShort(): string {
    const { ledger, left } = this;
    if (!ledger || (left === null && !ledger.credits)) return '';
    if (left === null) return `${round(ledger.month.spent)} credits this month`;
    if (left < 0) return `${round(-left)} credits over the month`;
    const until = ledger.surely_until || ledger.likely_until;
    const all = ledger.forecast && ledger.forecast.surely === ledger.left;
    return `${round(left)} credits left${!ledger.left || all ? ', enough for all' : until ? `, enough until shot ${until}` : ''}`;
  }

  /** Something changed that the ledger tells of; many changes at once are one reading. */
  told(wait_ms = REST_MS) {
    this.#timer ??= setTimeout(() => {
      this.#timer = undefined;
      void this.load().catch(this.trouble);
    }, wait_ms);
  }

  async load() {
    this.ledger = (await ok(api.GET('/api/projects/{project_id}/ledger', { params: { path: { project_id: this.projectId } } }))) as Ledger;
  }

  close() {
    clearTimeout(this.#timer);
  }
}

export const round = (credits: number) => new Intl.NumberFormat(undefined, { maximumFractionDigits: credits < 100 ? 1 : 0 }).format(credits);
