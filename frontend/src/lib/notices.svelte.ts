export interface Notice {
  id: number;
  text: string;
  tone: 'plain' | 'trouble';
}

/** Short messages at the foot of the window; trouble stays until it is put away. */
class Notices {
  all = $state<Notice[]>([]);
  #next = 1;

  say(text: string, tone: Notice['tone'] = 'plain') {
    const id = this.#next++;
    this.all = [...this.all.filter((n) => n.text !== text), { id, text, tone }].slice(-3);
    if (tone === 'plain') setTimeout(() => this.drop(id), 4000);
  }

  dropText(text: string) {
    this.all = this.all.filter((n) => n.text !== text);
  }

  drop(id: number) {
    this.all = this.all.filter((n) => n.id !== id);
  }
}

export const notices = new Notices();
