<script lang="ts">
  import { onMount } from 'svelte';
  import { PICTURES, brought } from '../../lib/pictures';
  import { api, thumb, whole } from '../../api/client';
  import { commands } from '../../lib/commands.svelte';
  import { chosenFiles, droppedFiles, type NamedFile } from '../../lib/files';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { virtualRows } from '../../lib/virtual.svelte';
  import { listOf } from '../../lib/words';
  import { LibraryState } from './library-state.svelte';
  import Taste from './Taste.svelte';

  /** Every picture that the project has seen: searched by word, colour, likeness, thread and tag; only what is seen is on the page. */
  const project = useProject();
  const library = new LibraryState(project);
  const CELL = 136;
  const ROW = 128;
  let scroller = $state<HTMLElement | null>(null);
  let wide = $state(800);
  let search = $state<HTMLInputElement | null>(null);
  let chooser = $state<HTMLInputElement | null>(null);
  let taste = $state(false);
  let reading = $state<{ done: number; of: number } | null>(null);
  let into = $state('');

  const columns = $derived(Math.max(1, Math.floor((wide - 24) / CELL)));
  const rows = $derived(Math.ceil(library.total / columns));
  const list = virtualRows(() => ({ scroller, count: rows, height: () => ROW }));
  const first = $derived((list.shown[0]?.index ?? 0) * columns);
  const last = $derived(Math.min(library.total, ((list.shown.at(-1)?.index ?? -1) + 1) * columns) - 1);
  const cells = $derived(Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i));
  const item = $derived(library.current);
  const many = $derived(library.chosen.size > 1 ? library.chosen.size : 0);

  onMount(() => {
    library.ask(0);
    const takeBack = project.table.offer(() => library.chosenItems.map((i) => ({ sha: i.sha, name: i.name, width: i.width, height: i.height })));
    const offered = commands.offer('Library', [
      { name: 'Find pictures', key: '/', run: () => search?.focus() },
      { name: 'Taste round', key: 'R', run: () => (taste = true) },
      { name: 'Pictures like this one', key: 'S', run: () => like() },
      { name: 'Put in the bin', key: 'Del', run: () => library.bin(true) },
    ]);
    return () => {
      takeBack();
      offered();
    };
  });

  $effect(() => {
    if (library.total && last >= 0) library.need(first, last);
  });

  let seenChange = project.version;
  $effect(() => {
    if (project.version === seenChange) return;
    seenChange = project.version;
    void library.again();
  });

  function like() {
    if (!item) return;
    library.like = item.sha;
    library.ask(0);
  }

  async function add(files: NamedFile[]) {
    if (!files.length) return;
    reading = { done: 0, of: files.length };
    for (const { file, name } of files) {
      await brought(project.id, file, name);
      if (!reading) break;
      reading = { done: reading.done + 1, of: files.length };
    }
    reading = null;
    library.ask(0);
  }

  function asReferences() {
    const thread_id = into;
    into = '';
    const pictures = library.chosenItems.map((i) => ({ sha: i.sha, name: i.name.replace(/\.[^.]+$/, '') }));
    if (!thread_id || !pictures.length) return;
    void project.send(() => api.POST('/api/projects/{project_id}/threads/{thread_id}/references', { params: { path: { project_id: project.id, thread_id } }, body: { pictures, costume: '' } }));
  }

  function show(index: number) {
    list.reveal(Math.floor(index / columns));
  }

  function onkeydown(event: KeyboardEvent) {
    if (taste || meantElsewhere(event) || commands.open || event.ctrlKey || event.metaKey || event.altKey) return;
    const step = ({ ArrowRight: 1, ArrowLeft: -1, ArrowDown: columns, ArrowUp: -columns, PageDown: columns * 4, PageUp: -columns * 4 } as Record<string, number>)[event.key];
    if (step) {
      const to = Math.min(library.total - 1, Math.max(0, library.cursor + step));
      library.choose(to, event.shiftKey ? 'range' : 'one');
      show(to);
    } else if (event.key === '/') search?.focus();
    else if (event.key === 's') like();
    else if (event.key === 'r') taste = true;
    else if (event.key === ' ') library.choose(library.cursor, 'more');
    else if (event.key === 'Delete') void library.bin(!library.binned);
    else if (event.key === 'Escape' && library.asking) library.clear();
    else return;
    event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />

{#if taste}<Taste tag={library.tag} onclose={() => { taste = false; void library.again(); }} />{:else}
<div class="flex h-full" role="region" aria-label="Library" ondragover={(e) => e.preventDefault()} ondrop={async (e) => { e.preventDefault(); if (e.dataTransfer) await add(await droppedFiles(e.dataTransfer)); }}>
  <section class="flex min-w-0 flex-1 flex-col">
    <div class="flex h-12 shrink-0 items-center gap-2 border-b border-line px-3">
      <input class="field !w-[200px]" bind:this={search} bind:value={library.words} placeholder="name, tag, who, shot …" aria-label="Find pictures" oninput={() => library.ask()} onkeydown={(e) => e.key === 'Escape' && e.currentTarget.blur()} />
      <label class="flex cursor-pointer items-center gap-1.5 rounded-sm px-1.5 py-1 hover:bg-hair {library.colour ? 'text-pencil' : 'text-soft'}" title="Pictures with this colour">
        <span class="inline-block size-4 border border-black/25" style={library.colour ? `background:${library.colour}` : 'background:conic-gradient(#b4532a,#dba326,#2f7d4f,#1f6f78,#3b3f73,#b4532a)'}></span>colour
        <input type="color" class="absolute size-0 opacity-0" value={library.colour || '#dba326'} aria-label="Colour" onchange={(e) => { library.colour = e.currentTarget.value; library.ask(0); }} />
      </label>
      <select class="plainselect max-w-[130px] {library.thread ? 'text-pencil' : 'text-soft'}" bind:value={library.thread} aria-label="Of a thread" onchange={() => library.ask(0)}><option value="">every thread</option>{#each project.columns as t (t.id)}<option value={t.id}>{t.name}</option>{/each}</select>
      <select class="plainselect max-w-[110px] {library.tag ? 'text-pencil' : 'text-soft'}" bind:value={library.tag} aria-label="With a tag" onchange={() => library.ask(0)}><option value="">every tag</option>{#each library.tags as t (t)}<option>{t}</option>{/each}</select>
      {#if library.like}<span class="flex items-center gap-1 text-pencil">like <img src={thumb(library.like)} alt="" class="size-7 object-cover" /></span>{/if}
      {#if library.asking}<button class="quiet" onclick={() => library.clear()}>clear</button>{/if}
      <span class="label ml-auto whitespace-nowrap">{library.total} {library.total === 1 ? 'picture' : 'pictures'}</span>
      <button class="quiet {library.binned ? 'bg-wash !text-pencil' : ''}" aria-pressed={library.binned} onclick={() => { library.binned = !library.binned; library.ask(0); }}>Bin</button>
      <button class="quiet whitespace-nowrap" onclick={() => (taste = true)} title="Choose between two, again and again (R)">Taste round …</button>
      {#if reading}<button class="btn" onclick={() => (reading = null)}>{reading.done} of {reading.of} · Stop</button>{:else}<button class="btn" onclick={() => chooser?.click()}>Add …</button>{/if}
    </div>
    <div class="min-h-0 flex-1 overflow-y-auto px-3" bind:this={scroller} bind:clientWidth={wide} data-library>
      {#if library.loaded && !library.total}
        <p class="mx-auto max-w-[420px] py-24 text-center text-soft">{library.asking ? 'No picture answers that.' : library.binned ? 'The bin is empty.' : 'Every picture that comes into this project stands here: references, takes, sketches, and whatever you drop.'}{#if library.asking}<br /><button class="btn mt-3" onclick={() => library.clear()}>Show all</button>{/if}</p>
      {/if}
      <div class="relative" style="height:{rows * ROW + 16}px">
        {#each cells as index (index)}
          {@const held = library.item(index)}
          <button
            class="absolute flex flex-col text-left" style="left:{(index % columns) * CELL}px;top:{Math.floor(index / columns) * ROW + 10}px;width:{CELL - 10}px;height:{ROW - 8}px"
            onclick={(e) => library.choose(index, e.shiftKey ? 'range' : e.ctrlKey || e.metaKey ? 'more' : 'one')} data-picture={held?.name}
          >
            <span class="well block h-[98px] w-full {index === library.cursor ? 'outline-2 outline-offset-1 outline-pencil' : ''} {held && library.chosen.has(held.id) ? 'border-[3px] border-pencil' : ''}">
              {#if held}<img src={thumb(held.sha)} alt="" class="size-full object-contain" draggable="false" />{/if}
            </span>
            <span class="mt-0.5 w-full truncate text-[11.5px] leading-[15px] {held?.uses.length ? '' : 'text-soft'}">{held?.name ?? ''}</span>
          </button>
        {/each}
      </div>
    </div>
  </section>
  <aside class="w-[272px] shrink-0 overflow-y-auto border-l border-line p-4" aria-label="Picture">
    {#if item}
      {#if many}<p class="mb-2 font-semibold">{many} pictures chosen</p>{:else}
        <span class="well mb-2 block h-[180px]"><img src={thumb(item.sha, 960)} alt={item.name} class="size-full object-contain" /></span>
        <p class="font-semibold break-words">{item.name}</p>
        <p class="label mb-2">{item.width} × {item.height}{library.asking && item.score < 1 ? ` · ${Math.round(item.score * 100)} % of what was asked` : ''} · <a class="underline" href={whole(item.sha)} target="_blank">open</a></p>
        {#each item.uses as use, i (i)}
          <button class="block w-full truncate text-left hover:underline" onclick={() => { if (use.what === 'reference') router.go(project.id, 'models', use.id); else { project.currentId = use.id; router.go(project.id, use.what === 'take' ? 'takes' : 'sheet'); } }}>{use.words}</button>
        {:else}<p class="text-soft">Not in use.</p>{/each}
      {/if}
      <h2 class="mt-4 mb-1 font-semibold">Tags</h2>
      <div class="flex flex-wrap gap-1">
        {#each [...new Set(library.chosenItems.flatMap((i) => i.tags))] as t (t)}<span class="flex items-center rounded-sm bg-hair pl-1.5 text-[12.5px]">{t}<button class="quiet px-1 py-0" onclick={() => library.retag([], [t])} aria-label="Take off {t}">×</button></span>{/each}
      </div>
      <input class="field mt-1.5" name="tags" placeholder="+ tags, with commas" aria-label="New tags" onkeydown={(e) => { if (e.key !== 'Enter') return; void library.retag(listOf(e.currentTarget.value)); e.currentTarget.value = ''; }} />
      <div class="mt-4 flex flex-col items-start gap-2">
        <button class="btn" onclick={like}>Pictures like this <span class="key">S</span></button>
        <select class="field" bind:value={into} aria-label="Make it a reference" onchange={asReferences}><option value="">make it a reference of …</option>{#each project.columns as t (t.id)}<option value={t.id}>{t.name}</option>{/each}</select>
        {#if project.current}<button class="btn" onclick={() => project.editShot(project.current!, { sketch_sha: item.sha })}>Layout guide of shot {project.number(project.current.id)}</button>{/if}
        <button class="quiet -ml-1.5" onclick={() => library.bin(!library.binned)}>{library.binned ? 'Take out of the bin' : 'Put in the bin'} <span class="key">Del</span></button>
      </div>
    {:else}<p class="text-soft">Choose a picture to see where it is used, to tag it, and to find others like it.</p>{/if}
  </aside>
</div>
{/if}
<input type="file" multiple accept={PICTURES} class="hidden" bind:this={chooser} data-choose="library" onchange={(e) => { const files = chosenFiles(e.currentTarget.files); e.currentTarget.value = ''; void add(files); }} />
