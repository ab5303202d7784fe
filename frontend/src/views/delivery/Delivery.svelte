<script lang="ts">
  import { onDestroy, onMount, untrack } from 'svelte';
  import Choice from '../../components/Choice.svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { clock } from '../run/timeline';
  import { AT_ONCE, called, DeliveryState, KINDS, size } from './delivery-state.svelte';

  /** Files for other programs and for paper: what is missing first, then what to make, then what was made. */
  const project = useProject();
  const view = new DeliveryState(project);
  const { options, outgoing } = $derived(view);
  const percent = (done: number, total: number) => (total ? Math.floor((100 * done) / total) : 0);

  let chooser = $state<HTMLInputElement | null>(null);

  onMount(() => void view.load());
  onDestroy(() => view.close());
  $effect(() => {
    void project.delivered;
    untrack(() => view.again());
  });
  $effect(() => {
    void [project.shots, project.takes, project.row];
    untrack(() => void view.look());
  });
</script>

<div class="flex h-full">
  <section class="min-w-0 flex-1 overflow-y-auto p-6" aria-label="What can be made">
    <h2 class="font-book text-[18px] font-semibold">Files out</h2>
    {#if outgoing}
      <!-- What can be made comes with what is missing, so that nothing moves away under the hand. -->
      <p class="mb-1 text-soft">{outgoing.shots === 1 ? '1 shot' : `${outgoing.shots} shots`}, {clock(outgoing.length_s, false)}.</p>
      {#if outgoing.missing.length}
        <ul class="mb-3 max-w-[640px] border-l-[3px] border-red pl-3" data-missing>
          {#each outgoing.missing as line (line)}<li>{line}</li>{/each}
        </ul>
        {#if outgoing.shots}
          <label class="mb-4 flex items-center gap-2"><input type="checkbox" checked={options.placeholders} onchange={(e) => view.set({ placeholders: e.currentTarget.checked })} />Put a card with the shot’s words where a picture is missing</label>
        {:else}<button class="btn mb-4" onclick={() => router.go(project.id, 'sheet')}>To the Sheet</button>{/if}
      {:else}<p class="mb-4">Every shot has its picture.</p>{/if}
    <ul class="grid max-w-[860px] gap-3">
      {#each KINDS as { kind, name, what } (kind)}
        <li class="flex items-start gap-4 border-t border-line pt-3" data-kind={kind}>
          <div class="min-w-0 flex-1">
            <h3 class="font-semibold">{name}</h3>
            <p class="text-soft">{what}</p>
            {#if kind === 'storyboard'}
              <div class="mt-1 flex items-center gap-2"><span class="label w-20">A page</span><Choice value={String(options.a_page)} options={[['1', '1'], ['4', '4'], ['6', '6'], ['9', '9']] as const} label="Pictures a page" small onchoose={(n) => view.set({ a_page: Number(n) as 1 | 4 | 6 | 9 })} /></div>
            {:else if kind === 'animatic'}
              <div class="mt-1 flex items-center gap-2"><span class="label w-20">Form</span><Choice value={options.form} options={[['mp4', 'MP4'], ['webm', 'WebM']] as const} label="Form" small onchoose={(form) => view.set({ form })} />
                <Choice value={String(options.height)} options={[['480', '480 lines'], ['720', '720'], ['1080', '1080']] as const} label="Size" small onchoose={(h) => view.set({ height: Number(h) as 480 | 720 | 1080 })} /></div>
              <div class="flex items-center gap-2"><span class="label w-20">Words</span><Choice value={options.words} options={[['burnt in', 'burnt in'], ['beside', 'beside, as WebVTT'], ['none', 'none']] as const} label="Words" small onchoose={(words) => view.set({ words })} /><label class="ml-3 flex items-center gap-1.5"><input type="checkbox" checked={options.sound} onchange={(e) => view.set({ sound: e.currentTarget.checked })} />with its sound</label></div>
            {:else if kind === 'captions'}
              <div class="mt-1 flex items-center gap-2"><span class="label w-20">Form</span><Choice value={options.captions} options={[['vtt', 'WebVTT'], ['srt', 'SRT']] as const} label="Form of captions" small onchoose={(captions) => view.set({ captions })} /></div>
            {/if}
          </div>
          <button class="btn" disabled={!outgoing?.shots} onclick={() => view.ask(kind)}>Make</button>
        </li>
      {/each}
      <li class="border-t border-line pt-3">
        <h3 class="font-semibold">At once</h3>
        <p class="flex flex-wrap gap-x-4">{#each AT_ONCE as { name, path } (path)}<a class="text-pencil underline" href="/api/projects/{project.id}/{path}" download>{name}</a>{/each}</p>
      </li>
      <li class="flex items-start gap-4 border-t border-line pt-3">
        <div class="min-w-0 flex-1">
          <h3 class="font-semibold">Files in</h3>
          <p class="text-soft">Lengths and order from a timeline that was edited elsewhere (.otio), or words from captions (.vtt, .srt). One undo takes it back.</p>
        </div>
        <button class="btn" onclick={() => chooser?.click()}>Choose a file</button>
        <input bind:this={chooser} class="hidden" type="file" accept=".otio,.vtt,.srt" data-choose="in" onchange={(e) => { const file = e.currentTarget.files?.[0]; e.currentTarget.value = ''; if (file) void view.bring(file); }} />
      </li>
    </ul>
    {/if}
  </section>
  <aside class="w-[380px] shrink-0 overflow-y-auto border-l border-line bg-panel p-4" aria-label="Files made">
    <h2 class="mb-2 font-book text-[16px] font-semibold">Made</h2>
    {#if view.read && !view.files.length}
      <p class="text-soft">Nothing yet. What you make is kept here until you remove it; you can go on working meanwhile.</p>
    {/if}
    <ul class="grid grid-cols-[minmax(0,1fr)] gap-3">
      {#each view.files as f (f.id)}
        <li class="border-t border-line pt-2" data-file={f.kind} data-state={f.state}>
          <p class="font-semibold">{called(f)}</p>
          {#if f.state === 'running' || f.state === 'waiting'}
            <div class="mt-1 flex items-center gap-2">
              <div class="h-2 flex-1 bg-hair" role="progressbar" aria-label={called(f)} aria-valuemin={0} aria-valuemax={100} aria-valuenow={percent(f.done, f.total)}><div class="h-full bg-pencil" style="width:{percent(f.done, f.total)}%"></div></div>
              <span class="w-16 text-right text-soft">{f.state === 'waiting' ? 'waits' : f.total ? `${percent(f.done, f.total)} %` : 'begins'}</span>
              <button class="quiet" onclick={() => view.stop(f)}>Stop</button>
            </div>
          {:else if f.state === 'done'}
            {#if f.message}<p class="text-red">{f.message}</p>{/if}
            <div class="flex items-baseline gap-2"><a class="min-w-0 flex-1 truncate text-pencil underline" href={view.link(f)} download={f.name} title={f.name}>{f.name}</a><span class="text-soft">{size(f.bytes)}</span><button class="quiet" onclick={() => view.remove(f)}>Remove</button></div>
          {:else}
            <p class={f.state === 'failed' ? 'text-red' : 'text-soft'}>{f.state === 'failed' ? f.message : 'Stopped. What was made so far is kept.'}</p>
            <div class="flex gap-2"><button class="btn" onclick={() => view.resume(f)}>Go on</button><button class="quiet" onclick={() => view.remove(f)}>Remove</button></div>
          {/if}
        </li>
      {/each}
    </ul>
  </aside>
</div>
