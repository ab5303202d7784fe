<script lang="ts">
  import { RadioGroup } from 'bits-ui';
  import { onDestroy, untrack } from 'svelte';
  import { thumb, type Shot } from '../../api/client';
  import Choice from '../../components/Choice.svelte';
  import FramingSign from '../../components/FramingSign.svelte';
  import MoveFrames from '../../components/MoveFrames.svelte';
  import { ANGLES, MOVES, SIZES } from '../../lib/framing';
  import { PICTURES } from '../../lib/pictures';
  import { useProject } from '../../lib/project-context';
  import { listOf } from '../../lib/words';
  import { ShotPanelState } from './shot-panel-state.svelte';
  import Stands from './Stands.svelte';

  /** All facts of the current shot. */
  let { onclose, chosen = [] }: { onclose: () => void; chosen?: string[] } = $props();
  const project = useProject();
  const view = new ShotPanelState(project, () => chosen);
  const { shot, cast, offers, suggested } = $derived(view);
  const texts: [keyof Shot & ('motion' | 'sound' | 'music' | 'notes'), string, string][] = [
    ['motion', 'What moves', 'for the animatic; the still shows none of it'], ['sound', 'Sound', 'cues'], ['music', 'Music', 'cues'], ['notes', 'Notes', ''],
  ];

  onDestroy(() => view.keepTyped());
  $effect(() => {
    void shot?.id;
    untrack(() => view.begin());
  });
</script>

{#if shot}
  <section class="flex h-full flex-col overflow-y-auto bg-paper p-4" aria-label="Facts of shot {project.number(shot.id)}" data-shot-panel>
    <header class="mb-3 flex items-start gap-3">
      <span class="font-book text-[20px]">{project.number(shot.id)}</span>
      <textarea
        class="field min-w-0 flex-1 resize-none self-start font-book text-[15px] leading-[20px]" rows="2" value={shot.shows} placeholder="What this picture shows" aria-label="What the picture shows"
        onchange={(e) => view.write('shows', e.currentTarget.value)}
      ></textarea>
      <button class="quiet" onclick={() => view.suggest()} title="From your writing service, or the simple one that ships">Suggest words …</button>
      <button class="quiet" onclick={onclose} title="Close (F)">Close</button>
    </header>
    {#if chosen.length > 1}<p class="mb-3 border-l-2 border-pencil pl-3 text-pencil">{chosen.length} shots are chosen: framing, form and guide go to all of them.</p>{/if}
    {#if suggested}
      <div class="mb-3 border-l-2 border-dashed border-pencil pl-3" data-offers>
        {#each suggested.texts as text, k (k)}<button class="block w-full py-0.5 text-left font-book text-pencil hover:bg-wash" onclick={() => view.takeWords(text)}>{text}</button>{/each}
        <p class="label">{suggested.note} <button class="underline" onclick={() => (view.suggested = null)}>Put away</button></p>
      </div>
    {/if}
    {#each [['Size', 'size', Object.keys(SIZES)], ['Angle', 'angle', ANGLES], ['Move', 'move', MOVES]] as [name, key, choices] (name)}
      <div class="mb-2 flex items-start gap-2">
        <span class="label w-11 pt-1">{name}</span>
        <RadioGroup.Root class="flex flex-1 flex-wrap gap-1" aria-label={name as string} orientation="horizontal" value={shot[key as 'size']} onValueChange={(choice) => view.set({ [key as string]: choice })}>
          {#each choices as choice (choice)}
            {@const on = shot[key as 'size'] === choice}
            <RadioGroup.Item
              value={choice} class="flex w-[51px] flex-col items-center rounded-sm border px-0.5 py-1 text-[10.5px] leading-[12px] {on ? 'border-pencil bg-wash font-semibold text-pencil' : 'border-transparent text-soft hover:border-line hover:text-ink'}"
              title={SIZES[choice as keyof typeof SIZES] ?? choice}
            ><FramingSign {...{ [key as string]: choice }} /><span class="mt-0.5 text-center">{choice}</span></RadioGroup.Item>
          {/each}
        </RadioGroup.Root>
      </div>
    {/each}
    {#if shot.move !== 'static'}<MoveFrames {shot} />{/if}
    <div class="mb-3 flex items-center gap-3" data-guide>
      <span class="label w-11 leading-[14px]">Layout guide</span>
      <span class="h-[54px] w-[82px] shrink-0 {shot.sketch_sha ? 'well' : 'border border-dashed border-pencil'}">{#if shot.sketch_sha}<img src={thumb(shot.sketch_sha)} alt="Layout guide" class="size-full object-contain" />{/if}</span>
      {#if shot.sketch_sha}
        <label class="flex min-w-0 flex-1 items-center gap-2"><span class="label">holds</span><input type="range" min="0" max="100" step="5" class="min-w-0 flex-1" value={Math.round(shot.guide_strength * 100)} aria-label="Strength of the guide" onchange={(e) => view.set({ guide_strength: Number(e.currentTarget.value) / 100 })} /><span class="w-10 text-right">{Math.round(shot.guide_strength * 100)} %</span></label>
        <button class="quiet whitespace-nowrap" onclick={() => view.set({ sketch_sha: null })}>Take off</button>
      {/if}
      <label class="btn cursor-pointer">{shot.sketch_sha ? 'Another …' : 'Picture or sketch …'}<input type="file" accept={PICTURES} class="sr-only" data-choose="guide" onchange={(e) => { const file = e.currentTarget.files?.[0]; e.currentTarget.value = ''; if (file) void view.guide(file); }} /></label>
    </div>
    <div class="mb-3 ml-[52px]">
      {#if offers}
        <p class="label mb-1">Other ways to look at this moment; a click takes one, the framing there is now is kept.</p>
        {#each offers as f, i (i)}
          <button class="flex w-full items-center gap-2 py-0.5 text-left hover:bg-wash" onclick={() => view.frame([...offers, ...shot.framings], i)}>
            <FramingSign size={f.size} width={30} /><span class="w-[170px] shrink-0">{f.size} · {f.angle} · {f.move}</span><span class="truncate text-soft">{f.why}</span>
          </button>
        {/each}
        <button class="quiet mt-1" onclick={() => view.frame([...offers, ...shot.framings], null)}>Keep them all beside the shot</button>
        <button class="quiet" onclick={() => (view.offers = null)}>Never mind</button>
      {:else}
        {#each shot.framings as f, i (i)}
          <button class="flex w-full items-center gap-2 py-0.5 text-left text-soft hover:bg-wash hover:text-ink" onclick={() => view.frame(shot.framings, i)} title="Take this framing">
            <FramingSign size={f.size} width={24} />{f.size} · {f.angle} · {f.move}<span class="truncate">{f.why ?? ''}</span>
          </button>
        {/each}
        <button class="quiet -ml-1.5" onclick={() => view.offer()}>Other framings …</button>
      {/if}
    </div>
    <div class="mb-3 flex items-end gap-3">
      <label class="w-[82px]"><span class="label">Form</span><input class="field" value={shot.aspect} placeholder={project.row?.aspect} pattern="\d+:\d+" title="Width to height, as 16:9; empty takes the project’s" aria-label="Form of this picture" onchange={(e) => (e.currentTarget.reportValidity() ? view.set({ aspect: e.currentTarget.value.trim() }) : undefined)} /></label>
      <label class="w-[100px]"><span class="label">Seed</span><input class="field" type="number" min="0" max="2147483648" step="1" value={shot.seed} placeholder={view.usualSeed} aria-label="Seed" onchange={(e) => (e.currentTarget.reportValidity() ? view.set({ seed: e.currentTarget.value === '' ? null : Number(e.currentTarget.value) }) : undefined)} /></label>
      <label class="flex-1"><span class="label">Don’ts, with commas</span><input class="field" value={shot.donts.join(', ')} placeholder="extra people, lettering" aria-label="Don’ts of this picture" onchange={(e) => view.set({ donts: listOf(e.currentTarget.value) })} /></label>
    </div>
    <div class="grid grid-cols-2 gap-x-4 gap-y-2">
      <label class="col-span-2"><span class="label">Spoken</span><textarea class="field resize-none font-book" rows="2" value={shot.spoken} onchange={(e) => view.write('spoken', e.currentTarget.value)}></textarea></label>
      <label class="col-span-2">
        <span class="label">Who speaks, with commas</span>
        <input class="field" value={view.speakers} onchange={(e) => view.writeSpeakers(e.currentTarget.value)} />
      </label>
      {#each texts as [key, name, hint] (key)}
        <label><span class="label">{name}</span><textarea class="field resize-none" rows="2" placeholder={hint} value={shot[key]} onchange={(e) => view.write(key, e.currentTarget.value)}></textarea></label>
      {/each}
      {#if cast.length}<Stands {view} />{/if}
      {#if project.row?.medium === 'book'}
        <div class="col-span-2 flex items-center gap-2">
          <span class="label w-11">Page</span>
          <Choice value={shot.page_form} options={[['half', 'half'], ['single', 'single'], ['spread', 'spread']]} label="Page" onchoose={(page_form) => view.set({ page_form })} />
          <label class="ml-3 flex items-center gap-1.5"><input type="checkbox" checked={shot.bleed} onchange={(e) => view.set({ bleed: e.currentTarget.checked })} />bleeds off the page</label>
        </div>
      {/if}
      {#if shot.sketch_sha && !cast.length}
        <div class="col-span-2"><span class="label">Sketch, its layout guide</span><div class="well mt-1 h-[120px]"><img src={thumb(shot.sketch_sha, 960)} alt="Sketch" class="size-full object-contain" /></div></div>
      {/if}
      {#if shot.lost}
        <div class="col-span-2 rounded-sm border border-red p-2">
          <span class="font-semibold text-red">Its words are not in the text any more</span>
          <p class="font-book text-soft">{shot.lost}</p>
          <button class="quiet -ml-1.5" onclick={() => view.set({ lost: '' })}>It covers no words</button>
        </div>
      {/if}
    </div>
  </section>
{/if}
