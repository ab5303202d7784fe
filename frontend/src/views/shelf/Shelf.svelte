<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ok, sendFile, thumb, type Schemas } from '../../api/client';
  import OwnAccount from '../../components/OwnAccount.svelte';
  import Wordmark from '../../components/Wordmark.svelte';
  import { notices } from '../../lib/notices.svelte';
  import { router } from '../../lib/router.svelte';

  let cards = $state<Schemas['ProjectCard'][] | null>(null);
  let title = $state('');

  onMount(load);

  async function load() {
    document.title = 'Juxtaform';
    try {
      cards = await ok(api.GET('/api/projects'));
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  async function make(event: Event) {
    event.preventDefault();
    if (!title.trim()) return;
    try {
      const made = await ok(api.POST('/api/projects', { body: { title } }));
      router.go(made.id, 'story');
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  let bringing = $state(false);
  async function bring(files: FileList | null) {
    const file = files?.[0];
    if (!file) return;
    bringing = true;
    try {
      const made = await sendFile<{ id: string }>('/api/bundles', file);
      router.go(made.id, 'sheet');
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
    bringing = false;
  }
</script>

<div class="h-full overflow-y-auto">
  <header class="flex h-12 items-center border-b border-line px-6"><Wordmark /><span class="ml-auto"></span><OwnAccount /></header>
  <main class="mx-auto max-w-[980px] px-6 py-10">
    <h1 class="sr-only">Projects</h1>
    <form class="mb-10 flex items-end gap-3" onsubmit={make}>
      <label class="flex-1">
        <span class="label">A new project</span>
        <!-- svelte-ignore a11y_autofocus -->
        <input class="field mt-1 h-10 font-book text-[16px]" name="title" placeholder="Its working title" bind:value={title} maxlength="200" autofocus />
      </label>
      <button class="btn btn-main h-10 px-5" disabled={!title.trim()}>Begin</button>
    </form>
    {#if cards?.length}
      <h2 class="mb-3 flex items-baseline justify-between font-semibold">Your projects{@render bundle()}</h2>
      <ul class="grid grid-cols-3 gap-6">
        {#each cards as card (card.id)}
          <li>
            <button class="group w-full text-left" onclick={() => router.go(card.id, card.shots ? 'sheet' : 'story')}>
              <div class="well grid aspect-[3/2] place-items-center overflow-hidden group-hover:outline-2 group-hover:outline-pencil">
                {#if card.cover}<img src={thumb(card.cover, 960)} alt="" class="size-full object-contain" />{/if}
              </div>
              <div class="mt-2 font-book text-[16px] leading-tight font-semibold">{card.title}</div>
            </button>
            <div class="label flex justify-between">{card.shots} {card.shots === 1 ? 'shot' : 'shots'}<a class="quiet -my-0.5" href="/api/projects/{card.id}/bundle.zip" title="The whole project as one open bundle: every row, every picture">give out as a bundle</a></div>
          </li>
        {/each}
      </ul>
    {:else if cards}
      <p class="text-soft">No projects yet. Give the first one a title; then paste its story, and it becomes scenes and shots. Or {@render bundle()}</p>
    {/if}
  </main>
</div>

{#snippet bundle()}
  <label class="quiet cursor-pointer font-normal">{bringing ? 'taking it in …' : 'take in a bundle …'}<input type="file" accept=".zip,application/zip" class="sr-only" data-choose="bundle" disabled={bringing} onchange={(e) => { void bring(e.currentTarget.files); e.currentTarget.value = ''; }} /></label>
{/snippet}
