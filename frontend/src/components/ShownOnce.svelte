<script lang="ts">
  import { notices } from '../lib/notices.svelte';
  import { copied } from '../lib/without-tls';

  /** A link or a token that is told this once, to be copied. */
  let { value, what, onput }: { value: string; what: string; onput: () => void } = $props();
  let field = $state<HTMLInputElement>();

  async function copy() {
    if (await copied(value)) notices.say('Copied.');
    else field?.select(); // It is marked, to be copied by hand.
  }
</script>

<div class="mb-4 rounded-sm bg-wash p-3" data-shown-once>
  <p class="mb-1"><strong>{what}</strong>, shown this once:</p>
  <div class="flex gap-2"><input class="field flex-1 font-mono text-[12px]" readonly {value} bind:this={field} onfocus={() => field?.select()} aria-label={what} /><button class="btn" onclick={copy}>Copy</button><button class="quiet" onclick={onput}>Put it away</button></div>
</div>
