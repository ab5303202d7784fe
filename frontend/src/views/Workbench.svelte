<script lang="ts">
  import { onDestroy, onMount, type Component } from 'svelte';
  import CommandSearch from '../components/CommandSearch.svelte';
  import HistoryPanel from '../components/HistoryPanel.svelte';
  import ColourScript from '../components/ColourScript.svelte';
  import ConflictDialog from '../components/ConflictDialog.svelte';
  import KeySheet from '../components/KeySheet.svelte';
  import Nav from '../components/Nav.svelte';
  import TopBar from '../components/TopBar.svelte';
  import { commands } from '../lib/commands.svelte';
  import { meantElsewhere, setProject, typing } from '../lib/project-context';
  import { ProjectState } from '../lib/project.svelte';
  import { theme } from '../lib/theme.svelte';
  import { router, VIEW_NAMES, VIEWS, type View } from '../lib/router.svelte';

  /** Each view comes when it is first opened. */
  const SHOWN = {
    story: () => import('./story/Story.svelte'),
    sheet: () => import('./sheet/Sheet.svelte'),
    models: () => import('./models/Models.svelte'),
    library: () => import('./library/Library.svelte'),
    briefs: () => import('./briefs/Briefs.svelte'),
    takes: () => import('./takes/Takes.svelte'),
    continuity: () => import('./continuity/Continuity.svelte'),
    run: () => import('./run/Run.svelte'),
    dummy: () => import('./dummy/Dummy.svelte'),
    delivery: () => import('./delivery/Delivery.svelte'),
    showings: () => import('./showings/Showings.svelte'),
  } satisfies Record<View, () => Promise<{ default: Component }>>;
  const TABLE = () => import('./light-table/LightTable.svelte');
  SHOWN[router.view]().catch(() => undefined); // It comes while the project is read.

  let { id }: { id: string } = $props();
  // svelte-ignore state_referenced_locally
  const project = setProject(new ProjectState(id));
  let keysOpen = $state(false);

  let historyOpen = $state(false);

  onMount(() => {
    void project.load().then(() => project.findings.want());
    return commands.offer('Everywhere', [
      ...VIEWS.map((view, i) => ({ name: `Go to ${VIEW_NAMES[view]}`, key: `Alt ${i + 1}`, run: () => router.go(project.id, view) })),
      { name: 'Check all pictures', key: 'C', run: () => project.check.start() },
      { name: 'Light table', key: 'L', run: () => project.table.lay() },
      { name: 'Undo', key: 'Ctrl Z', run: () => project.undo() },
      { name: 'Redo', key: 'Ctrl Shift Z', run: () => project.redo() },
      { name: 'History', key: 'H', run: () => (historyOpen = true) },
      { name: 'All keys', key: '?', run: () => (keysOpen = true) },
      { name: 'Light or dark surroundings', run: () => theme.turn() },
      { name: 'All projects', run: () => router.go(null) },
    ]);
  });
  onDestroy(() => project.close());

  $effect(() => {
    void router.view;
    project.table.close();
  });
  $effect(() => project.presence.at(router.view, project.currentId));
  $effect(() => {
    document.title = project.title ? `${project.title} · Juxtaform` : 'Juxtaform';
  });

  /** A window that is out of sight for a while listens no more, so that many can be open; in sight again it catches up. */
  let resting: ReturnType<typeof setTimeout> | undefined;
  function seen() {
    clearTimeout(resting);
    if (document.hidden) resting = setTimeout(() => project.rest(), 60_000);
    else project.wake();
  }

  /** Whoever closes the window while something waits to be sent is asked first. */
  function onbeforeunload(event: BeforeUnloadEvent) {
    if (project.outbox.waiting || [...project.unkept].some((held) => held())) event.preventDefault();
  }

  function onkeydown(event: KeyboardEvent) {
    const ctrl = event.ctrlKey || event.metaKey;
    if (ctrl && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      commands.open = !commands.open;
      return;
    }
    if (typing(event) || commands.open) return;
    const view = event.altKey ? VIEWS[Number(event.code.replace('Digit', '')) - 1] : undefined;
    if (ctrl && event.key.toLowerCase() === 'z') void (event.shiftKey ? project.redo() : project.undo());
    else if (ctrl && event.key.toLowerCase() === 'y') void project.redo();
    else if (view) router.go(project.id, view);
    else if (ctrl || event.altKey || meantElsewhere(event)) return;
    else if (event.key === '?') keysOpen = true;
    else if (event.key === 'j') project.step(1);
    else if (event.key === 'k') project.step(-1);
    else if (event.key === 'c') void project.check.start();
    else if (event.key === 'h') historyOpen = true;
    else if (event.key === 'l') project.table.lay();
    else return;
    event.preventDefault();
  }
</script>

<svelte:document onvisibilitychange={seen} />
<svelte:window {onkeydown} {onbeforeunload} onpagehide={() => project.rest()} onpageshow={(e) => e.persisted && project.wake()} />

{#if project.missing}
  <div class="grid h-full place-items-center text-center">
    <div>
      <h1 class="mb-2 font-book text-[20px] font-semibold">This project is not there any more.</h1>
      <button class="btn" onclick={() => router.go(null)}>All projects</button>
    </div>
  </div>
{:else if project.loaded}
  <div class="flex h-full flex-col">
    <TopBar onkeys={() => (keysOpen = true)} onhistory={() => (historyOpen = true)} />
    <ColourScript />
    <div class="flex min-h-0 flex-1">
      <Nav />
      <main class="relative min-w-0 flex-1">
        <h1 class="sr-only">{VIEW_NAMES[router.view]}, {project.title}</h1>
        {#if project.table.open}{#await TABLE() then { default: LightTable }}<LightTable />{:catch}{/await}{/if}
        {#await SHOWN[router.view]() then { default: View }}<View />{:catch}<p class="p-10 text-center">This view could not be loaded. Is bin/start still running? Reload the page.</p>{/await}
      </main>
    </div>
  </div>
  <ConflictDialog />
  <HistoryPanel bind:open={historyOpen} />
  <CommandSearch />
{/if}
<KeySheet bind:open={keysOpen} />
