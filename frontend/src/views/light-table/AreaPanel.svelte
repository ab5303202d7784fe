<script lang="ts">
  import Choice from '../../components/Choice.svelte';
  import { PICTURES } from '../../lib/pictures';
  import { TOOLS, type AreaState, type Tool } from './area-state.svelte';

  /** Say what is to be in the area instead, and who makes it: a service, or your own hand elsewhere. */
  let { area, onclose, onbrought }: { area: AreaState; onclose: () => void; onbrought: (take: string) => void } = $props();
  const project = $derived(area.project);
  let chooser = $state<HTMLInputElement | null>(null);

  async function send(event: Event) {
    event.preventDefault();
    if (await area.send()) onclose();
  }

  async function bring(file: File | undefined) {
    const made = file ? await area.bring(file) : null;
    if (made) onbrought(made);
  }
</script>

<section data-area-panel>
  <div class="flex items-start justify-between gap-2"><h2 class="font-book text-[18px] leading-6 font-semibold">Change one area of {area.laid.name}</h2><button class="quiet shrink-0" onclick={onclose}>Back <span class="key">Esc</span></button></div>
  <p class="label mt-1">Draw over what may change. Nothing else may: what comes back is held against this picture.</p>
  <div class="mt-2"><Choice value={area.tool} options={TOOLS} label="Draw with" onchoose={(tool: Tool) => (area.tool = tool)} /></div>
  <label class="flex items-center gap-2"><input type="checkbox" bind:checked={area.rubbing} />rub out <span class="key">R</span></label>
  {#if area.tool === 'brush'}<label class="mt-1 flex items-center gap-2"><span class="label w-[70px]">brush</span><input type="range" min="0.005" max="0.15" step="0.005" bind:value={area.radius} class="min-w-0 flex-1" /></label>{/if}
  <label class="mt-1 flex items-center gap-2"><span class="label w-[70px]">soft rim</span><input type="range" min="0" max="0.06" step="0.005" bind:value={area.feather} class="min-w-0 flex-1" /></label>
  <p class="mt-1 flex gap-1"><button class="btn !px-2" disabled={!area.shapes.length} onclick={() => area.back()}>Last form back <span class="key">Z</span></button><button class="btn !px-2" disabled={!area.shapes.length} onclick={() => area.clear()}>Clear</button></p>
</section>
<form class="flex flex-col gap-2" onsubmit={send}>
  <label class="flex flex-col gap-1"><span class="font-semibold">What is to be there?</span><textarea class="field h-20" bind:value={area.words} maxlength="2000" placeholder="her left hand open, holding the key" data-area-words></textarea></label>
  {#if area.service}
    <div class="flex items-center gap-2">
      <select class="field min-w-0 flex-1" value={area.service.id} onchange={(e) => (area.serviceId = e.currentTarget.value)} aria-label="Asked of">{#each project.serviceList as s (s.id)}<option value={s.id}>{s.name}</option>{/each}</select>
      <label class="flex items-center gap-1"><input class="field !w-14" type="number" min="1" max="40" bind:value={area.count} aria-label="How many tries" />tries</label>
    </div>
    <button class="btn btn-main" disabled={area.busy || area.empty || !area.words.trim()} data-send-area>Ask for it</button>
    {#if area.empty}<p class="label">Draw the area first.</p>{/if}
  {:else}<p class="text-soft">There is no service to ask yet: add one in Takes, Make takes …. A picture that you retouch yourself can be brought.</p>{/if}
</form>
<section>
  <h2 class="font-semibold">Retouched elsewhere?</h2>
  <p class="label mb-1">Draw the area that you meant to change, then bring the picture: it becomes a take, with the proof of what changed.</p>
  <button class="btn" disabled={area.busy || area.empty} onclick={() => chooser?.click()}>{area.busy ? 'Comparing …' : 'Bring a picture …'}</button>
  <input type="file" accept={PICTURES} class="hidden" bind:this={chooser} data-choose="retouched" onchange={(e) => { void bring(e.currentTarget.files?.[0]); e.currentTarget.value = ''; }} />
</section>
