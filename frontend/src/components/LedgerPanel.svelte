<script lang="ts">
  import { Dialog } from 'bits-ui';
  import Choice from './Choice.svelte';
  import { round } from '../lib/ledger.svelte';
  import { useProject } from '../lib/project-context';
  import { counted } from '../lib/words';

  /** The ledger: what is left of the month and for how long that is enough; what was spent on what. */
  const project = useProject();
  const books = $derived(project.ledger);
  const ledger = $derived(books.ledger);
  let open = $state(false);
  let by = $state<'shot' | 'scene' | 'service' | 'day'>('shot');
  const lines = $derived(ledger ? { shot: ledger.by_shot, scene: ledger.by_scene, service: ledger.by_service, day: ledger.by_day }[by] : []);
  const most = $derived(Math.max(1, ...lines.map((l) => l.credits)));

  async function allow(event: Event) {
    const words = (event.target as HTMLInputElement).value.trim();
    const value = words === '' ? null : Number(words.replace(',', '.'));
    if (value !== null && !(value >= 0)) return;
    await project.editProject({ allowance: value });
    books.told(0);
  }
</script>

{#if books.inShort}
  <button class="max-w-[210px] shrink-0 truncate rounded-sm px-1 whitespace-nowrap hover:underline {books.left !== null && books.left <= 0 ? 'font-semibold text-red' : 'text-soft'}" onclick={() => { open = true; books.told(0); }} data-ledger>{books.inShort}</button>
{/if}
<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 flex max-h-[92vh] w-[620px] -translate-x-1/2 -translate-y-1/2 flex-col p-6" data-ledger-panel>
      <Dialog.Title class="font-book text-[18px] font-semibold">Ledger</Dialog.Title>
      {#if ledger}
        <Dialog.Description class="mt-1 mb-4" data-ledger-told>{ledger.told}</Dialog.Description>
        <dl class="mb-4 grid grid-cols-4 gap-4 border-y border-hair py-3">
          <div><dt class="label">Spent this month</dt><dd class="font-book text-[19px]">{round(ledger.month.spent)}</dd></div>
          <div><dt class="label">Bound by open jobs</dt><dd class="font-book text-[19px]">{round(ledger.month.bound)}</dd></div>
          <div><dt class="label"><label for="allowance">Allowed a month</label></dt><dd><input id="allowance" class="field !w-24" inputmode="decimal" placeholder="no limit" value={ledger.month.allowance ?? ''} onchange={allow} /></dd></div>
          <div><dt class="label">Left</dt><dd class="font-book text-[19px] {books.left !== null && books.left < 0 ? 'text-red' : ''}">{books.left === null ? 'no limit' : round(books.left)}</dd></div>
        </dl>
        <div class="mb-1 flex items-center gap-2">
          <Choice value={by} options={[['shot', 'by shot'], ['scene', 'by scene'], ['service', 'by service'], ['day', 'by day']]} label="Spent by" onchoose={(v) => (by = v)} />
          <a class="btn ml-auto" href="/api/projects/{project.id}/ledger.csv" download>CSV</a>
        </div>
        <div class="min-h-0 flex-1 overflow-y-auto">
          {#each lines as l (l.id)}
            <div class="grid h-7 grid-cols-[1fr_150px_70px_60px] items-center gap-3 border-t border-hair">
              <span class="truncate">{l.name}</span>
              <span class="h-1.5 bg-hair"><span class="block h-full bg-soft" style="width:{(l.credits / most) * 100}%"></span></span>
              <span class="text-right text-soft">{counted(l.takes, 'take')}</span><span class="text-right">{round(l.credits)}</span>
            </div>
          {:else}<p class="py-6 text-center text-soft">Nothing was spent yet. What takes cost is written down here.</p>{/each}
        </div>
        <p class="mt-2 border-t border-line pt-2 text-right"><span class="text-soft">{counted(ledger.takes, 'take')} in all</span> <strong class="ml-3">{round(ledger.credits)} credits</strong></p>
      {/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
