<script lang="ts">
  import type { BookFacts } from '../../api/client';
  import Choice from '../../components/Choice.svelte';
  import { useProject } from '../../lib/project-context';
  import type { DummyState } from './dummy-state.svelte';

  /** How the book is made: its size, what stands before the story, its words. */
  let { view }: { view: DummyState } = $props();
  const project = useProject();
  const said = $derived(project.row!.book as Partial<BookFacts>);
  const book = $derived(view.book!);
  const front = $derived<BookFacts['front']>(said.front ?? ['title', 'imprint']);
  const PAGES = [['title', 'a title page'], ['imprint', 'an imprint'], ['dedication', 'a dedication']] as const;

  const shown = $derived(project.order.filter((s) => project.pictureOf(s.id) ?? s.sketch_sha));
  /** What the cover is made of: its picture is asked for again when one of them is another. */
  const coverOf = $derived(view.cover ? JSON.stringify([view.cover.shot, view.cover.author, view.cover.ground, view.cover.title, project.title, view.view?.shas[view.cover.shot]]) : '');
  const stamp = $derived([...coverOf].reduce((n, c) => (n * 31 + c.charCodeAt(0)) | 0, 7));

  function number(event: Event, key: 'trim_w' | 'trim_h' | 'bleed' | 'safe' | 'gutter' | 'words_pt') {
    const input = event.currentTarget as HTMLInputElement;
    if (input.checkValidity() && input.value !== '') void view.make({ [key]: input.valueAsNumber });
    else if (input.value === '' && (key === 'trim_w' || key === 'trim_h')) void view.make({ [key]: null });
    else input.value = String(book[key]);
  }

  function toggle(page: (typeof PAGES)[number][0], on: boolean) {
    const order: string[] = ['title', 'imprint', 'dedication', 'blank'];
    const rest = front.filter((f) => f !== page);
    const now = (on ? [...rest, page] : rest).sort((a, b) => order.indexOf(a) - order.indexOf(b));
    void view.make({ front: now as BookFacts['front'] });
  }
</script>

{#snippet mm(label: string, key: 'bleed' | 'safe' | 'gutter', most: number)}
  <label class="flex items-center gap-2"><span class="label flex-1">{label}</span><input class="field !w-20 text-right" type="number" min="0" max={most} step="0.5" value={book[key]} onchange={(e) => number(e, key)} /> <span class="w-6 text-soft">mm</span></label>
{/snippet}

<h2 class="mb-1 font-book text-[16px] font-semibold">The book</h2>
<div class="grid gap-1.5" data-making>
  <div class="flex items-center gap-2"><span class="label flex-1">Trim size</span><input class="field !w-[70px] text-right" type="number" min="50" max="600" step="0.5" aria-label="Width, mm" value={book.trim_w} onchange={(e) => number(e, 'trim_w')} /> × <input class="field !w-[70px] text-right" type="number" min="50" max="600" step="0.5" aria-label="Height, mm" value={book.trim_h} onchange={(e) => number(e, 'trim_h')} /> <span class="w-6 text-soft">mm</span></div>
  {@render mm('Bleed', 'bleed', 20)}
  {@render mm('Safe distance from the edge', 'safe', 40)}
  {@render mm('Kept free at the fold, each side', 'gutter', 40)}
  <label class="flex items-center gap-2"><span class="label flex-1">Words</span><input class="field !w-20 text-right" type="number" min="6" max="60" step="0.5" value={book.words_pt} onchange={(e) => number(e, 'words_pt')} /> <span class="w-6 text-soft">pt</span></label>
  <div class="flex items-center gap-2"><span class="label flex-1">A sheet takes</span><Choice value={String(book.multiple)} options={[['4', '4'], ['8', '8'], ['1', 'any']] as const} label="Pages of a sheet" small onchoose={(n) => view.make({ multiple: Number(n) as 4 | 8 | 1 })} /><span class="w-9 text-soft">pages</span></div>
  <fieldset class="flex flex-wrap gap-x-3"><legend class="label">Before the story</legend>
    {#each PAGES as [page, name] (page)}<label class="flex items-center gap-1"><input type="checkbox" checked={front.includes(page)} onchange={(e) => toggle(page, e.currentTarget.checked)} />{name}</label>{/each}
  </fieldset>
  {#if front.includes('imprint')}<label><span class="label">Imprint</span><textarea class="field resize-none" rows="3" maxlength="2000" value={said.imprint ?? ''} placeholder="Who made it, when, and whose it is." onchange={(e) => view.make({ imprint: e.currentTarget.value })}></textarea></label>{/if}
  {#if front.includes('dedication')}<label><span class="label">Dedication</span><input class="field" maxlength="600" value={said.dedication ?? ''} onchange={(e) => view.make({ dedication: e.currentTarget.value })} /></label>{/if}
</div>

<h2 class="mt-4 mb-1 font-book text-[16px] font-semibold">The cover</h2>
<div class="grid gap-1.5" data-cover>
  {#if view.cover}<img class="well w-full object-contain" style="aspect-ratio:{view.cover.book.trim_w} / {view.cover.book.trim_h}" src="/api/projects/{project.id}/book/cover?height=400&v={stamp}" alt="Front of the cover: {project.title}" />{/if}
  <label class="flex items-center gap-2"><span class="label flex-1">Its picture</span><select class="field !w-[190px]" aria-label="Picture of the cover" value={said.cover_shot_id ?? ''} onchange={(e) => view.make({ cover_shot_id: e.currentTarget.value || null })}>
    <option value="">no cover</option>{#each shown as shot (shot.id)}<option value={shot.id}>shot {project.number(shot.id)}: {shot.shows.slice(0, 40)}</option>{/each}
  </select></label>
  {#if said.cover_shot_id}
    <label><span class="label">By</span><input class="field" maxlength="200" value={said.author ?? ''} placeholder="Who wrote and drew it" onchange={(e) => view.make({ author: e.currentTarget.value })} /></label>
    <label><span class="label">On the back</span><textarea class="field resize-none" rows="3" maxlength="2000" value={said.blurb ?? ''} placeholder="A few words that make one want to read it." onchange={(e) => view.make({ blurb: e.currentTarget.value })}></textarea></label>
    <label class="flex items-center gap-2"><span class="label flex-1">Spine, empty: by its pages</span><input class="field !w-20 text-right" type="number" min="0" max="60" step="0.1" value={said.spine ?? ''} placeholder={String(view.cover?.spine_mm ?? 0)} onchange={(e) => { if (e.currentTarget.checkValidity()) void view.make({ spine: e.currentTarget.value === '' ? null : e.currentTarget.valueAsNumber }); }} /> <span class="w-6 text-soft">mm</span></label>
  {/if}
</div>
