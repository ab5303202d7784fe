<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { PICTURES_AND_CLIPS } from '../../lib/pictures';
  import FinalPass from './FinalPass.svelte';
  import MakeTakes from './MakeTakes.svelte';
  import PicturesIn from '../pictures-in/PicturesIn.svelte';
  import ShotFacts from '../../components/ShotFacts.svelte';
  import WhereTheyStand from '../pictures-in/WhereTheyStand.svelte';
  import ContactSheet from './ContactSheet.svelte';
  import OneAside from './OneAside.svelte';
  import OnePicture from './OnePicture.svelte';
  import RemakeDialog from './RemakeDialog.svelte';
  import Rescue from './Rescue.svelte';
  import SheetAside from './SheetAside.svelte';
  import TrialDialog from './TrialDialog.svelte';
  import TrialPanel from './TrialPanel.svelte';
  import { commands } from '../../lib/commands.svelte';
  import { chosenFiles, droppedFiles, type NamedFile } from '../../lib/files';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { counted } from '../../lib/words';
  import { ClipState } from './clip-state.svelte';
  import { ContactSheetState, FAULT_KEYS, FAULTS } from './contact-sheet-state.svelte';
  import { TakesState } from './takes-state.svelte';

  const project = useProject();
  const view = new TakesState(project);
  const sheet = new ContactSheetState(project);
  let editing = $state<string | null>(null);
  let incoming = $state<NamedFile[] | null>(null);
  let looking = $state(false);
  let making = $state(false);
  let remaking = $state(false);
  let rescuing = $state(false);
  let finishing = $state(false);
  let trying = $state(false);
  let trialId = $state<string | null>(null);
  let perLine = $state(4);
  let chooser = $state<HTMLInputElement | null>(null);
  /** Whether one take is shown large; a shot's only take is. */
  let large = $state<boolean | null>(null);

  const { shot, takes } = $derived(view);
  const one = $derived(takes.length > 0 && (large ?? (takes.length === 1 && !sheet.coming)));
  const clipOf = $derived(one && view.take && project.pictures.get(view.take.picture_sha)?.clip ? view.take.id : null);
  const clip = $derived(clipOf ? new ClipState(project, clipOf) : null);
  const trial = $derived(trialId ? project.trials.get(trialId) : undefined);
  const spent = $derived(takes.reduce((sum, t) => sum + (t.made_from.made?.credits ?? 0), 0));

  $effect(() => {
    if (project.currentId)
      untrack(() => {
        view.begin();
        large = null;
        rescuing = false;
        trialId = null;
      });
  });
  $effect(() => {
    if (one) view.look();
  });
  $effect(() => view.awaitNext());
  $effect(() => {
    void [project.marks, project.picked];
    const now = clip;
    untrack(() => void now?.load());
  });
  onMount(() => void project.loadOthers());
  onMount(() => project.table.offer(() => [sheet.picked, one ? view.take : sheet.chosen].flatMap((t) => (t ? project.table.ofTake(t) : []))));
  onMount(() =>
    commands.offer('Takes', [
      { name: 'Make takes …', key: 'M', run: () => (making = true) },
      { name: 'Final pass …', run: () => (finishing = true) },
      { name: 'Try settings …', run: () => (trying = true) },
      { name: 'Add takes from files …', run: () => chooser?.click() },
      { name: 'All takes of the shot', key: 'Esc', run: () => (large = false) },
    ]),
  );

  function open() {
    view.shownId = sheet.chosen?.id ?? null;
    large = true;
  }

  function back() {
    sheet.chosenId = view.take?.id ?? null;
    large = false;
  }

  function show(take: string) {
    trialId = null;
    sheet.chosenId = take;
    view.shownId = take;
    large = true;
  }

  function showOf(shot: string, take: string) {
    project.currentId = shot;
    setTimeout(() => show(take));
  }

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || incoming || looking || making || rescuing || trial || event.ctrlKey || event.metaKey || event.altKey) return;
    const onButton = event.target instanceof HTMLButtonElement && !event.target.closest('[data-take]');
    if (event.key === 'm') making = true;
    else if (one && event.key === 'Escape' && !view.chosen && !view.asked && !view.faulting) back();
    else if (clip && !onButton && clip.key(event.key)) return event.preventDefault();
    else if (one) {
      if (!view.key(event.key, onButton)) return;
    } else if (event.key === ' ' && !onButton && sheet.chosen) open();
    else if (event.key === 'g' && sheet.chosen?.made_from.made) remaking = true;
    else if (event.key === 'r' && sheet.chosen) rescuing = true;
    else if (onButton && event.key === 'Enter') return;
    else if (!sheet.key(event.key, perLine)) return;
    event.preventDefault();
  }

  async function dropped(event: DragEvent) {
    event.preventDefault();
    const files = event.dataTransfer ? await droppedFiles(event.dataTransfer) : [];
    if (files.length) incoming = files;
  }
</script>

<svelte:window {onkeydown} />

{#if !shot}
  <div class="grid h-full place-items-center text-center">
    <div>
      <h2 class="mb-2 font-book text-[20px] font-semibold">No shots yet</h2>
      <button class="btn" onclick={() => router.go(project.id, 'story')}>Paste the story</button>
    </div>
  </div>
{:else}
  <div class="relative flex h-full" role="region" aria-label="Takes" ondragover={(e) => e.preventDefault()} ondrop={dropped}>
    <div class="relative flex min-w-0 flex-1 flex-col">
      <div class="flex shrink-0 items-start gap-3 px-4 pt-4 pb-2">
        <span class="w-8 font-book text-[22px] leading-7">{project.number(shot.id)}</span>
        <div class="min-w-0 flex-1"><ShotFacts {shot} bind:editing lines={2} /></div>
        <span class="label shrink-0 pt-1.5 whitespace-nowrap" aria-live="polite">{takes.length > 1 ? counted(takes.length, 'take') : ''}{spent ? ` · ${spent.toFixed(0)} credits` : ''}{sheet.coming ? ` · ${sheet.coming} still to come` : ''}</span>
        {#if takes.some((t) => t.made_from.made)}<button class="btn shrink-0" onclick={() => (finishing = true)} data-open-finals>Final pass …</button>{/if}
        <button class="btn shrink-0" onclick={() => chooser?.click()}>Add …</button>
        <button class="btn btn-main shrink-0" onclick={() => (making = true)} data-open-making>Make takes …</button>
      </div>
      {#if !project.whole && takes.length < 2}
        <div class="min-h-0 flex-1"></div>
      {:else if !takes.length}
        <div class="min-h-0 flex-1 p-4 pt-1">
          <div class="grid size-full place-items-center border border-dashed border-pencil text-center">
            <div>
              <p class="mb-1 font-book text-[18px]">{sheet.coming ? `${counted(sheet.coming, 'take')} asked for` : 'No picture of this shot yet'}</p>
              <p class="mb-4 text-soft">{sheet.coming ? 'They come here as they are made.' : 'Ask a service for takes, or drop pictures or clips of your own here; the first of yours is picked.'}</p>
              <button class="btn btn-main" onclick={() => (making = true)}>Make takes …</button> <button class="btn" onclick={() => chooser?.click()}>Choose pictures …</button>
            </div>
          </div>
        </div>
      {:else if one}
        <OnePicture {view} {sheet} {clip} onback={back} />
      {:else}
        <div class="relative flex min-h-0 flex-1 flex-col">
          <ContactSheet {sheet} bind:perLine onopen={open} />
          {#if trial}{#key trial.id}<TrialPanel {trial} onclose={() => (trialId = null)} onshow={show} />{/key}{/if}
        </div>
        {#if sheet.marking}
          <div class="flex min-h-9 shrink-0 flex-wrap items-center gap-x-0.5 border-t border-line bg-wash px-4 py-1" role="toolbar" aria-label="Mark a fault" data-fault-kinds>
            <span class="label mr-1">Point at it, then</span>
            {#each FAULTS as [kind, name], i (kind)}<button class="quiet flex items-center gap-1 px-1" onclick={() => sheet.mark(kind)}><span class="key">{FAULT_KEYS[i]}</span>{name}</button>{/each}
          </div>
        {:else}
        <p class="flex h-9 shrink-0 items-center gap-4 overflow-hidden border-t border-line px-4 whitespace-nowrap text-soft">
          <span><span class="key">Enter</span> pick</span><span><span class="key">+</span> keep</span><span><span class="key">−</span> out</span><span><span class="key">.</span> mark a fault</span><span><span class="key">L</span> light table</span><span><span class="key">Space</span> large</span><span><span class="key">J</span> next shot</span>
        </p>
        {/if}
      {/if}
    </div>
    {#if rescuing && sheet.chosen && !one}
      <div class="absolute inset-0 z-20"><Rescue take={sheet.chosen} number={sheet.numberOf.get(sheet.chosen.id) ?? 0} onclose={(child) => { rescuing = false; if (child) sheet.chosenId = child; }} /></div>
    {/if}
    <aside class="flex w-[250px] shrink-0 flex-col gap-5 overflow-y-auto border-l border-line bg-panel p-4">
      {#if one}<OneAside {view} {sheet} onlook={() => (looking = true)} />{:else}<SheetAside {sheet} onopen={open} onremake={() => (remaking = true)} onrescue={() => (rescuing = true)} ontrial={(id) => (id ? (trialId = id) : (trying = true))} />{/if}
    </aside>
  </div>
  <input type="file" multiple accept={PICTURES_AND_CLIPS} class="hidden" bind:this={chooser} data-choose="takes"
    onchange={(e) => { const files = chosenFiles(e.currentTarget.files); if (files.length) incoming = files; e.currentTarget.value = ''; }} />
  {#if looking}<WhereTheyStand onclose={() => (looking = false)} />{/if}
  {#if incoming}<PicturesIn files={incoming} shot={shot.id} onclose={() => (incoming = null)} />{/if}
  {#if making}<MakeTakes bind:open={making} />{/if}
  {#if remaking && sheet.chosen}<RemakeDialog bind:open={remaking} take={sheet.chosen} number={sheet.numberOf.get(sheet.chosen.id) ?? 0} />{/if}
  {#if finishing}<FinalPass bind:open={finishing} onshow={showOf} />{/if}
  {#if trying}<TrialDialog bind:open={trying} onbegun={(id) => { large = false; trialId = id; }} />{/if}
{/if}
