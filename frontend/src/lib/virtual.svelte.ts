import { createVirtualizer, type SvelteVirtualizer, type VirtualItem } from '@tanstack/svelte-virtual';
import { untrack } from 'svelte';

/** A list as it stands: what scrolls, how many rows there are and how high each is. */
export interface Listed {
  scroller: HTMLElement | null;
  count: number;
  height: (row: number) => number;
}

export interface VirtualRows {
  /** The rows in sight, and some beside them. */
  readonly shown: readonly VirtualItem[];
  /** The height of all rows. */
  readonly height: number;
  /** Scroll as little as is needed for a row to be seen. */
  reveal(row: number): void;
}

const BESIDE = 4;

/** A list of which only the rows in sight are on the page. To be called while a component is made. */
export function virtualRows(listed: () => Listed): VirtualRows {
  let shown = $state.raw<readonly VirtualItem[]>([]);
  let height = $state(0);
  let virtual: SvelteVirtualizer<HTMLElement, Element> | null = null;
  const options = ({ scroller, count, height: estimateSize }: Listed) => ({ count, estimateSize, getScrollElement: () => scroller, overscan: BESIDE });
  const store = createVirtualizer<HTMLElement, Element>(options(untrack(listed)));

  $effect(() =>
    store.subscribe((now) => {
      virtual = now;
      shown = now.getVirtualItems();
      height = now.getTotalSize();
    }),
  );
  $effect(() => {
    const now = listed();
    untrack(() => {
      virtual?.setOptions(options(now));
      virtual?.measure();
    });
  });
  return {
    get shown() {
      return shown;
    },
    get height() {
      return height;
    },
    reveal: (row) => virtual?.scrollToIndex(row, { align: 'auto' }),
  };
}
