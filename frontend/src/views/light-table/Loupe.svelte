<script lang="ts">
  import type { LightTableState } from './light-table-state.svelte';

  /** What the loupe reads: the same place in each picture, how far the colours are apart, and that without the light of the scenes. */
  let { view }: { view: LightTableState } = $props();
  const read = $derived(view.laid.flatMap((laid, i) => (view.loupe.readings[i] ? [{ laid, i, reading: view.loupe.readings[i] }] : [])));
  const lit = $derived(read.some(({ reading }) => reading.even_hex));
  const light = $derived(view.laid.map((l) => view.loupe.light(l)).find((l) => l !== undefined));
</script>

<section aria-label="Under the loupe" data-loupe>
  <h2 class="mb-1 font-semibold">Under the loupe</h2>
  {#if !read.length}
    <p class="text-soft">Point at a place, or move the loupe with Shift and the arrows.</p>
  {:else}
    <table class="w-full border-collapse text-[12.5px]">
      <thead><tr class="text-left text-soft"><th class="font-normal"><span class="sr-only">Picture</span></th><th class="w-[58px] font-normal">as it is</th>{#if lit}<th class="w-[58px] font-normal">light out</th>{/if}</tr></thead>
      <tbody>
        {#each read as { laid, i, reading } (laid.sha)}
          <tr class="align-top" data-reading={i}>
            <td class="pr-2 pb-2 leading-[17px]">{laid.name}
              {#if reading.hex === null}<span class="block text-soft">the loupe lies outside</span>
              {:else if reading.apart !== null}<span class="block" data-apart><b>{reading.apart.toFixed(1)}</b> {reading.words}{#if reading.even_apart !== null}<span class="block text-soft" data-even-apart>light out <b class="text-ink">{reading.even_apart.toFixed(1)}</b> {reading.even_words}</span>{/if}</span>{/if}</td>
            <td class="pb-2">{#if reading.hex}<span class="block h-6 w-[52px] border border-black/20" style="background:{reading.hex}"></span><span class="text-[11px]">{reading.hex}</span>{/if}</td>
            {#if lit}<td class="pb-2">{#if reading.even_hex ?? reading.hex}<span class="block h-6 w-[52px] border border-black/20" style="background:{reading.even_hex ?? reading.hex}"></span><span class="text-[11px]">{reading.even_hex ?? reading.hex}</span>{/if}</td>{/if}
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="label">{light ? `Light out: without the light of the scene (${view.laid.flatMap((l) => { const own = view.loupe.light(l); return own ? [`${l.name}: ${own.words}`] : []; }).join('; ')}). ` : 'The light of these scenes was not measured: nobody is marked there, or no check ran. '}Numbers are CIEDE2000; 1 can just be seen.</p>
  {/if}
</section>
