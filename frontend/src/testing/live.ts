/** A window on a real server, outside of a browser: relative addresses, and an event source as browsers have it. */
declare const process: { env: Record<string, string | undefined> };
const address = process.env.JUXTAFORM_ADDRESS ?? '';
const absolute = (url: string) => (url.startsWith('/') ? address + url : url);
const Plain = globalThis.Request;

globalThis.Request = class extends Plain {
  constructor(input: string | Request, init?: RequestInit) {
    super(typeof input === 'string' ? absolute(input) : input, init);
  }
} as typeof Request;

const AGAIN_MS = 50;

/** As far as it is used: named events with ids, and coming again with the last id when the connection ends. */
class Source extends EventTarget {
  readyState = 0;
  #last = '';
  #stop = new AbortController();

  constructor(private readonly url: string) {
    super();
    void this.#run();
  }

  close() {
    this.readyState = 2;
    this.#stop.abort();
  }

  async #run() {
    while (this.readyState !== 2) {
      try {
        const headers: Record<string, string> = this.#last ? { 'Last-Event-ID': this.#last } : {};
        const answer = await fetch(absolute(this.url), { headers, signal: this.#stop.signal });
        if (!answer.ok) {
          this.readyState = 2;
          this.dispatchEvent(new Event('error'));
          return;
        }
        this.readyState = 1;
        await this.#read(answer.body!.getReader());
      } catch {
        // The connection ended; it comes again.
      }
      if (this.readyState !== 2) await new Promise((again) => setTimeout(again, AGAIN_MS));
    }
  }

  async #read(reader: ReadableStreamDefaultReader<Uint8Array>) {
    const decoder = new TextDecoder();
    let held = '';
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      held += decoder.decode(value, { stream: true });
      const blocks = held.split('\n\n');
      held = blocks.pop()!;
      for (const block of blocks) this.#say(block);
    }
  }

  #say(block: string) {
    const field = (name: string) =>
      block
        .split('\n')
        .filter((line) => line.startsWith(`${name}:`))
        .map((line) => line.slice(name.length + 1).trimStart())
        .join('\n');
    if (field('id')) this.#last = field('id');
    if (field('data') && this.readyState !== 2) this.dispatchEvent(new MessageEvent(field('event') || 'message', { data: field('data') }));
  }
}

globalThis.EventSource = Source as unknown as typeof EventSource;
