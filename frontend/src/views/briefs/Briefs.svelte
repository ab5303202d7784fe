<script lang="ts">
  import { onMount } from 'svelte';
  import { DropdownMenu } from 'bits-ui';
  import { thumb } from '../../api/client';
  import Because from '../../components/Because.svelte';
  import Choice from '../../components/Choice.svelte';
  import Kink from '../../components/Kink.svelte';
  import { commands } from '../../lib/commands.svelte';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import BriefPage from './BriefPage.svelte';
  import { BriefsState, type Against } from './briefs-state.svelte';
  import BriefFindings from './BriefFindings.svelte';
  import Defaults from './Defaults.svelte';

  /** Each frame's brief, as it would leave: its words with their sources, its pictures, and what would go wrong. */
  const project = useProject();
  const briefs = new BriefsState(project);
  const FORMS = { md: 'Markdown', csv: 'Table (CSV)', json: 'JSON', zip: 'Numbered folders with pictures (zip)' } as const;
  const AGAINST: [Against, string][] = [['before', 'the shot before'], ['sent', 'the last sent'], ['plain', 'without edits']];
  const shows = $derived(briefs.listed);
  const stale = $derived(briefs.brief ? (project.findings.take.openByShot.get(briefs.brief.shot_id) ?? []) : []);
  let list = $state<HTMLElement | null>(null);

  onMount(() => {
    project.findings.want();
    return commands.offer('Briefs', [
      { name: 'Copy this brief', key: 'Y', run: () => briefs.copy() },
      { name: 'The brief as it is sent', run: () => (briefs.view = 'sent') },
      { name: 'The brief of what moves', run: () => (briefs.view = 'motion') },
      { name: 'Next finding', key: ']', run: () => briefs.step(1) },
      { name: 'Finding before', key: '[', run: () => briefs.step(-1) },
      { name: 'Mend the finding', key: '↵', run: () => briefs.mend(briefs.finding) },
      ...AGAINST.map(([how, words]) => ({ name: `Compare with ${words}`, run: () => { briefs.against = how; void briefs.compare(); } })),
      ...Object.entries(FORMS).map(([form, name]) => ({ name: `Hand over all as ${name}`, run: () => handOver(form) })),
    ]);
  });

  $effect(() => {
    void project.row?.profiles;
    void briefs.loadProfiles();
  });

  $effect(() => {
    void project.findings.read;
    void project.currentId;
    void briefs.load();
  });

  $effect(() => {
    if (project.currentId) list?.querySelector(`[data-brief-of="${project.currentId}"]`)?.scrollIntoView({ block: 'nearest' });
  });

  function handOver(form: string) {
    location.assign(`/api/projects/${project.id}/briefs.${form}`);
  }

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || commands.open) return;
    if (event.key === 'Enter' && event.target instanceof HTMLButtonElement) return;
    if (briefs.key(event)) event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />

<div class="flex h-full">
  <aside class="flex w-[236px] shrink-0 flex-col border-r border-line" aria-label="Shots">
    <div class="flex h-10 items-center border-b border-line px-2">
      <Choice value={briefs.only} options={[['all', 'All'], ['findings', 'To mend'], ['stale', 'Stale'], ['edited', 'Edited']]} label="Which briefs" onchoose={(what) => (briefs.only = what)} small />
    </div>
    <div class="min-h-0 flex-1 overflow-y-auto" bind:this={list}>
      {#each shows as shot (shot.id)}
        {@const count = (project.findings.brief.openByShot.get(shot.id)?.length ?? 0)}
        <button class="drawn-when-seen flex h-[46px] w-full items-center gap-2 border-b border-hair px-3 text-left {shot.id === project.currentId ? 'bg-wash' : ''}" data-brief-of={shot.id} onclick={() => (project.currentId = shot.id)}>
          <span class="w-6 shrink-0 font-book text-[16px]">{project.number(shot.id)}</span>
          <span class="line-clamp-2 min-w-0 flex-1 text-[12px] leading-[15px]">{shot.shows || 'says nothing yet'}</span>
          {#if project.findings.take.openByShot.has(shot.id)}<span class="shrink-0 border border-dashed border-soft px-1 text-[10.5px] text-soft" title="Its picture was made from an older reference">stale</span>{/if}
          {#if count}<span class="flex shrink-0 items-center gap-1 font-semibold text-red"><Kink />{count}</span>{/if}
        </button>
      {:else}
        <p class="p-5 text-center text-soft">{briefs.only === 'all' ? 'No settled shots yet. Plan the story first.' : 'None of them.'}</p>
      {/each}
    </div>
  </aside>

  {#if !briefs.brief}
    <div class="grid flex-1 place-items-center"><p class="max-w-[380px] text-center text-soft">{project.order.length ? 'A proposed shot has no brief yet. Accept it in the Story.' : 'A brief is composed for every shot: its words from the plan, its pictures from the model sheets.'}<br /><button class="btn mt-3" onclick={() => router.go(project.id, 'story')}>To the Story</button></p></div>
  {:else}
    <section class="flex min-w-0 flex-1 flex-col" aria-label="Brief of shot {briefs.brief.number}">
      <div class="flex h-10 shrink-0 items-center gap-2 border-b border-line px-4 whitespace-nowrap">
        <span class="font-book text-[17px] font-semibold">Shot {briefs.brief.number}</span>
        <select class="plainselect ml-2 max-w-[190px]" value={briefs.brief.profile.name} aria-label="Fitted to" title="The service that briefs are fitted to" onchange={(e) => project.editProject({ profile: e.currentTarget.value })}>
          {#each briefs.profiles as p (p.name)}<option value={p.name}>{p.name}</option>{/each}
        </select>
        <select class="plainselect max-w-[150px]" bind:value={briefs.against} aria-label="Compare with" onchange={() => briefs.compare()} title="What differs, word by word (D)">
          <option value="none">compare …</option>{#each AGAINST as [how, words] (how)}<option value={how}>with {words}</option>{/each}
          <optgroup label="with another shot">{#each project.order.filter((s) => s.status === 'settled' && s.id !== project.currentId) as s (s.id)}<option value={s.id}>shot {project.number(s.id)}</option>{/each}</optgroup>
        </select>
        <span class="ml-auto"></span>
        <Defaults {briefs} />
        <DropdownMenu.Root>
          <DropdownMenu.Trigger class="quiet" data-hand-over>Hand over all …</DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content class="pop w-[270px] py-1" align="end" sideOffset={4}>
              {#each Object.entries(FORMS) as [form, name] (form)}<DropdownMenu.Item class="cursor-pointer px-3 py-1.5 outline-none data-highlighted:bg-wash" onSelect={() => handOver(form)}>{name}</DropdownMenu.Item>{/each}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <button class="btn" onclick={() => briefs.copy()} title="To the clipboard (Y)">Copy</button>
      </div>
      <BriefPage {briefs} />
    </section>
    <aside class="w-[300px] shrink-0 overflow-y-auto border-l border-line" aria-label="Preflight and pictures">
      {#each stale as s (s.key)}
        <div class="border-b border-hair p-4 text-soft" data-stale><b class="text-ink">Stale.</b> {s.title}.
          {#if briefs.because === s.key}
            <Because stand={(reason) => briefs.stet(s.key, reason)} leave={() => (briefs.because = null)} />
          {:else}
            <span class="mt-1.5 flex gap-2"><button class="btn" onclick={() => router.go(project.id, 'takes')}>Retake</button><button class="quiet" onclick={() => (briefs.because = s.key)}>Stet, because …</button></span>
          {/if}
        </div>
      {/each}
      <BriefFindings {briefs} />
      <div class="border-t border-hair p-4">
        <h2 class="mb-2 font-semibold">Pictures that go with it</h2>
        <div class="grid grid-cols-3 gap-2">
          {#each briefs.brief.fitted.brief.pictures as p, i (i)}
            <figure title="{p.label}, {Math.round(p.weight * 100)} %"><span class="well block h-[70px]"><img src={thumb(p.sha)} alt={p.label} class="size-full object-contain" /></span><figcaption class="mt-0.5 line-clamp-2 text-[11px] leading-[13px]"><b class="font-semibold">{i + 1}</b> {p.label}</figcaption></figure>
          {:else}<p class="label col-span-3">None: words alone.</p>{/each}
        </div>
        {#if briefs.brief.fitted.left.length}
          <h2 class="mt-4 mb-1 font-semibold">Left out or shortened for {briefs.brief.profile.name}</h2>
          {#each briefs.brief.fitted.left as x, i (i)}<p class="py-0.5 text-[12.5px] text-soft" title={x.why}>{x.what}</p>{/each}
        {/if}
      </div>
    </aside>
  {/if}
</div>
