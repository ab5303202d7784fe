<script lang="ts">
  import { onMount } from 'svelte';
  import Wordmark from '../../components/Wordmark.svelte';
  import { counted } from '../../lib/words';
  import { clock } from '../run/timeline';
  import { ShownState } from './shown-state.svelte';
  import ShownShot from './ShownShot.svelte';
  import ShownStage from './ShownStage.svelte';

  /** A showing, for somebody who has its link and nothing else: on a telephone too. */
  const view = new ShownState();
  let passphrase = $state('');
  let only = $state<'all' | 'changed' | 'open'>('all');
  let closing = $state('');
  const shots: Record<string, ReturnType<typeof ShownShot>> = $state({});
  const changes = $derived(Object.keys(view.shown?.changed ?? {}).length);
  const listed = $derived(view.shots.filter((s) => (only === 'changed' ? view.changedOf(s) : only === 'open' ? !view.own.has(s.id) : true)));
  const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'long', year: 'numeric' });

  onMount(() => {
    const secret = location.hash.slice(1);
    const before = /^\/show\/([0-9a-f]{32})$/.exec(location.pathname)?.[1];
    void (secret ? view.open(secret) : before ? view.openedBefore(before) : view.open('')).then(() => {
      if (view.state === 'open') opened();
    });
  });

  function opened() {
    history.replaceState(null, '', `/show/${view.id}`); // The secret does not stay in the address; this browser is known by its cookie.
    document.title = view.shown?.title ?? 'Juxtaform';
    if (changes) only = 'changed';
  }

  async function enter(event: Event) {
    event.preventDefault();
    await view.open('', passphrase);
    passphrase = '';
    if (view.state === 'open') opened();
  }

  async function sign(event: Event) {
    event.preventDefault();
    if (await view.sign(closing)) closing = '';
  }
</script>

<div class="h-full overflow-y-auto text-[15px]" data-shown>
  <header class="flex h-12 items-center border-b border-line px-4"><Wordmark /></header>
  <main class="mx-auto max-w-[720px] px-4 pb-16">
    {#if view.state === 'open' && view.shown}
      <h1 class="mt-6 font-book text-[26px] leading-tight font-semibold">{view.shown.title}</h1>
      <p class="label mt-1">{view.shown.made_by ? `${view.shown.made_by} · ` : ''}as it was on {day.format(new Date(view.shown.frozen_at))}{view.shown.edition > 1 ? `, edition ${view.shown.edition}` : ''} · {counted(view.shots.length, 'shot')} · {clock(view.length_s, false)} · to be seen until {day.format(new Date(view.shown.ends_at))}</p>
      {#if view.shown.words}<p class="mt-3 font-book text-[17px] whitespace-pre-line">{view.shown.words}</p>{/if}
      <div class="mt-5"><ShownStage {view} oncomment={(shot, at_s) => { only = 'all'; void Promise.resolve().then(() => shots[shot]?.write({ at_s })); }} /></div>
      <div class="sticky top-0 z-10 mt-6 flex flex-wrap items-center gap-2 border-b border-line bg-paper py-2">
        <h2 class="mr-auto font-semibold">{counted(listed.length, 'shot')}</h2>
        <select class="field !w-auto min-h-9" aria-label="Which shots" bind:value={only}>
          <option value="all">all shots</option>
          {#if changes}<option value="changed">changed since your last look ({changes})</option>{/if}
          <option value="open">not said anything of yet ({view.shots.length - view.own.size})</option>
        </select>
      </div>
      {#each listed as shot (shot.id)}<ShownShot {view} {shot} bind:this={shots[shot.id]} />{:else}<p class="py-10 text-center text-soft">{only === 'open' ? 'You said something of every shot.' : 'Nothing changed.'} <button class="underline" onclick={() => (only = 'all')}>Show all</button></p>{/each}
      <section class="mt-6 border-t-2 border-ink pt-5" data-signing>
        <h2 class="font-book text-[20px] font-semibold">Sign off</h2>
        {#each view.signs as s (s.name + s.edition)}<p class="mt-1">{s.name} signed off edition {s.edition} on {day.format(new Date(s.at))}.{s.words ? ` “${s.words}”` : ''}</p>{/each}
        {#if !view.signed}
          <p class="mt-1 text-soft">{view.count.good} good, {view.count.change} to be changed, {view.shots.length - view.own.size} not said anything of.</p>
          <form class="mt-3 flex flex-col gap-3" onsubmit={sign}>
            <label><span class="label">Your name</span><input class="field mt-1 min-h-10 text-[16px]" name="name" required maxlength="80" autocomplete="name" bind:value={view.name} /></label>
            <label><span class="label">A word, if you like</span><input class="field mt-1 min-h-10 text-[16px]" name="words" maxlength="4000" bind:value={closing} /></label>
            {#if view.trouble}<p class="border-l-4 border-red pl-2 text-red" role="alert">{view.trouble}</p>{/if}
            <button class="btn btn-main min-h-11">This edition is as it should be</button>
          </form>
        {/if}
      </section>
    {:else if view.state === 'passphrase'}
      <h1 class="mt-10 mb-2 font-book text-[22px] font-semibold">This showing opens with a passphrase</h1>
      <form class="flex flex-col gap-3" onsubmit={enter}>
        <label><span class="label">The passphrase that you were told</span>
          <!-- svelte-ignore a11y_autofocus -->
          <input class="field mt-1 min-h-10 text-[16px]" type="password" name="passphrase" autocomplete="off" bind:value={passphrase} autofocus /></label>
        {#if view.trouble.includes('not open')}<p class="border-l-4 border-red pl-2 text-red" role="alert">{view.trouble}</p>{/if}
        <button class="btn btn-main min-h-11">Open</button>
      </form>
    {:else if view.state === 'gone'}
      <h1 class="mt-10 mb-2 font-book text-[22px] font-semibold">Nothing is shown here</h1>
      <p role="alert">{view.trouble}</p>
    {/if}
  </main>
</div>
