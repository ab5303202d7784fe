<script lang="ts">
  import { api, ok, type Beat, type Project, type Schemas } from '../../api/client';
  import { duration } from '../../lib/order';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';

  /** From a premise to beats: each with a purpose, a share of the time, and a question to answer. */
  let { onwrite }: { onwrite: (text: string) => void } = $props();
  const project = useProject();
  const SHAPES = ['three acts', 'five parts', 'four turns', 'three tries', 'there and back', 'round'] as const;
  const row = $derived(project.row);
  let offers = $state.raw<{ id: string; got: Schemas['Offers'] } | null>(null);
  const whole = $derived(project.beats.reduce((sum, b) => sum + b.share, 0) || 1);
  const path = $derived({ project_id: project.id });
  const length = (share: number) => {
    const part = share / whole;
    if (row?.medium === 'book') return row.target_pages ? `${Math.round(part * row.target_pages * 10) / 10} pages` : `${Math.round(part * 100)} %`;
    return project.target_s ? duration(part * project.target_s) : `${Math.round(part * 100)} %`;
  };

  function setCast(event: Event) {
    const frame_cast = (event.target as HTMLTextAreaElement).value
      .split('\n')
      .map((line) => line.split(/\s*[:–—]\s*(.*)/s))
      .filter(([name]) => name?.trim())
      .map(([name, line]) => ({ name: name!.trim(), line: (line ?? '').trim() }));
    void project.editProject({ frame_cast });
  }

  const edit = (beat: Beat, values: Partial<Beat>) =>
    void project.edit(beat, (revision) => api.PATCH('/api/projects/{project_id}/beats/{beat_id}', { params: { path: { ...path, beat_id: beat.id } }, body: { ...values, revision } }));
  const move = (beat: Beat, step: 1 | -1) =>
    void project.send(() => api.POST('/api/projects/{project_id}/beats/{beat_id}/move', { params: { path: { ...path, beat_id: beat.id } }, body: { step } }));
  const drop = (beat: Beat) => void project.send(() => api.DELETE('/api/projects/{project_id}/beats/{beat_id}', { params: { path: { ...path, beat_id: beat.id } } }));
  const add = (after: string | null) => void project.send(() => api.POST('/api/projects/{project_id}/beats', { params: { path }, body: { after } }));
  const draw = (shape: Project['shape']) => void project.send(() => api.POST('/api/projects/{project_id}/frame', { params: { path }, body: { shape: shape } }));

  async function ask(beat: Beat) {
    try {
      offers = { id: beat.id, got: await ok(api.POST('/api/projects/{project_id}/beats/{beat_id}/offers', { params: { path: { ...path, beat_id: beat.id } } })) };
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  async function write() {
    try {
      onwrite((await ok(api.GET('/api/projects/{project_id}/frame/text', { params: { path } }))).text);
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  function onkeydown(event: KeyboardEvent, beat: Beat) {
    if (!event.altKey || !event.key.startsWith('Arrow')) return;
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      event.stopPropagation();
      move(beat, event.key === 'ArrowUp' ? -1 : 1);
    }
  }
</script>

<div class="min-h-0 flex-1 overflow-y-auto px-8 py-5" data-frame>
  <div class="mx-auto grid max-w-[620px] grid-cols-[1fr_220px] gap-x-5 gap-y-3">
    <label><span class="label">Premise: the story in one sentence</span>
      <textarea class="field resize-none font-book text-[16px] leading-[22px]" rows="3" name="premise" value={row?.premise} placeholder="Somebody wants something, and something stands in the way." onchange={(e) => project.editProject({ premise: e.currentTarget.value })}></textarea></label>
    <label><span class="label">Tone</span>
      <input class="field" name="tone" value={row?.tone} placeholder="warm, a little funny" onchange={(e) => project.editProject({ tone: e.currentTarget.value })} /></label>
    <label class="col-span-2"><span class="label">Cast, one a line: a name, a colon, a line about them</span>
      <textarea class="field resize-none font-book" rows="3" name="cast" value={row?.frame_cast.map((c) => (c.line ? `${c.name}: ${c.line}` : c.name)).join('\n')} placeholder={'Pell: nine, apprentice at a harbour light'} onchange={setCast}></textarea></label>
    <div class="col-span-2 flex flex-wrap items-center gap-1">
      <span class="label mr-1">Draw up a frame in</span>
      {#each SHAPES as shape (shape)}<button class="btn {row?.shape === shape && project.beats.length ? '!border-pencil !text-pencil' : ''}" onclick={() => draw(shape)}>{shape}</button>{/each}
    </div>
  </div>
  {#if project.beats.length}
    <ol class="mx-auto mt-5 max-w-[620px]">
      {#each project.beats as beat, i (beat.id)}
        <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
        <li class="group border-t border-hair py-3" onkeydown={(e) => onkeydown(e, beat)} data-beat={beat.title}>
          <div class="flex items-baseline gap-3">
            <span class="w-5 font-book text-[17px]">{i + 1}</span>
            <input class="plainselect min-w-0 flex-1 font-book text-[16px] font-semibold" value={beat.title} aria-label="Title of the beat" onchange={(e) => edit(beat, { title: e.currentTarget.value })} />
            <span class="label whitespace-nowrap">{beat.cast.join(', ')}</span>
            <label class="flex items-center gap-1"><input type="range" class="w-20" min="0.02" max="0.5" step="0.01" value={beat.share} aria-label="Share of the time" onchange={(e) => edit(beat, { share: Number(e.currentTarget.value) })} /><span class="label w-[74px] text-right">{length(beat.share)}</span></label>
            <span class="opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
              <button class="quiet px-1" onclick={() => move(beat, -1)} aria-label="Move up" title="Alt ↑">↑</button><button class="quiet px-1" onclick={() => move(beat, 1)} aria-label="Move down" title="Alt ↓">↓</button><button class="quiet px-1" onclick={() => add(beat.id)} aria-label="A beat below">+</button><button class="quiet px-1" onclick={() => drop(beat)} aria-label="Drop the beat">×</button>
            </span>
          </div>
          <p class="ml-8 text-soft">{beat.purpose} <button class="quiet -my-1 text-pencil opacity-0 group-focus-within:opacity-100 group-hover:opacity-100" onclick={() => ask(beat)}>Suggest words …</button></p>
          {#if offers?.id === beat.id}
            <div class="my-1 ml-8 border-l-2 border-dashed border-pencil pl-3" data-offers>
              {#each offers.got.texts as text, k (k)}<button class="block w-full py-0.5 text-left font-book text-pencil hover:bg-wash" onclick={() => { edit(beat, { answer: beat.answer ? `${beat.answer} ${text}` : text }); offers = null; }}>{text}</button>{/each}
              <p class="label">{offers.got.note} <button class="underline" onclick={() => (offers = null)}>Put away</button></p>
            </div>
          {/if}
          <textarea class="field mt-1 ml-8 !w-[calc(100%-2rem)] resize-none font-book text-[15px]" rows="2" value={beat.answer} placeholder={beat.question} aria-label={beat.question || 'What happens'} onchange={(e) => edit(beat, { answer: e.currentTarget.value })}></textarea>
        </li>
      {/each}
    </ol>
    <div class="mx-auto flex max-w-[620px] gap-2 border-t border-hair pt-4">
      <button class="btn btn-main" onclick={write}>{project.text.trim() ? 'Add the frame below the text' : 'Write on from this frame'}</button>
      <button class="btn" onclick={() => add(null)}>Another beat</button>
    </div>
  {:else}
    <p class="mx-auto mt-10 max-w-[460px] text-center text-soft">Choose a shape: it gives beats with a purpose, a share of the time and a question each. Fill them, move them, drop them. Whoever has a text already needs none of this.</p>
  {/if}
</div>
