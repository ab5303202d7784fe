<script lang="ts">
  import { api, crop, thumb, type BoxPx, type Finding, type Lineup } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { wordsFor } from './at-once';

  let {
    found, lineup, place, count, stetOpen = $bindable(false), onreplace, onretake, onstood,
  }: { found: Finding; lineup: Lineup | null; place: number; count: number; stetOpen?: boolean; onreplace: () => void; onretake: () => void; onstood?: () => void } = $props();
  const project = useProject();
  let reason = $state('');

  const finding = $derived(found);
  const words = $derived(wordsFor(project, found));
  const shot = $derived(found.shot ?? '');
  const stet = $derived(project.stetByKey.get(found.key));
  const again = $derived(project.decidedByKey.get(found.key)?.verdict === 'retake');
  const beforePicture = $derived(finding.before ? project.pictureOf(finding.before) : undefined);
  const cell = $derived(lineup && finding.thread === lineup.thread_id ? lineup.cells.find((c) => c.shot_id === finding.shot) : undefined);
  const anchor = $derived(lineup?.anchors.find((a) => a.costume === (cell?.costume ?? '')) ?? lineup?.anchors[0]);
  const picture = $derived(project.pictureOf(shot));
  const thread = $derived(finding.thread ? project.threads.get(finding.thread) : undefined);
  const take = $derived(project.picked.get(shot));
  const takeNumber = $derived((project.takesByShot.get(shot) ?? []).findIndex((t) => t.id === take?.id) + 1);
  const backPicture = $derived(finding.back_to ? project.pictureOf(finding.back_to) : undefined);
  const light = $derived(cell?.light ?? null);
  /** What stands there a second time is elsewhere in the picture than the figure that is marked. */
  const SECOND = ['twice', 'twice_doubtful'];
  /** Who stands beside whom is seen in the whole picture. */
  const WHOLE = [...SECOND, 'height', 'height_doubtful'];
  /** Where on the figure it is, is framed. */
  const FRAMED = ['trait_twice', 'extra', 'extra_doubtful'];
  const LAID = ['figure_swapped', 'figure_stranger', 'figure_doubtful', 'proportion', 'proportion_doubtful'];
  const laid = $derived(
    cell?.laid && finding.thread && LAID.includes(finding.kind)
      ? `/api/projects/${project.id}/lineups/${finding.thread}/pictures/${finding.shot}?key=${cell.laid!.key}`
      : null,
  );

  /** What is shown of the figure, cut to its picture as the server cuts it. */
  const shown = $derived.by(() => {
    const { x, y, w, h } = grown(cell?.box ?? { x: 0, y: 0, w: 1, h: 1 });
    const [left, top] = [Math.max(0, x), Math.max(0, y)];
    return { x: left, y: top, w: Math.min(picture?.width ?? x + w, x + w) - left, h: Math.min(picture?.height ?? y + h, y + h) - top };
  });
  const at = ({ x, y, w, h }: BoxPx) => `left:${(100 * x) / picture!.width}%;top:${(100 * y) / picture!.height}%;width:${(100 * w) / picture!.width}%;height:${(100 * h) / picture!.height}%`;
  const grown = (b: BoxPx): BoxPx => ({ x: b.x - b.w * 0.04, y: b.y - b.h * 0.04, w: b.w * 1.08, h: b.h * 1.08 });

  function letStand(event: Event) {
    event.preventDefault();
    void project.stand(found.key, reason).then((done) => {
      if (!done) return;
      stetOpen = false;
      reason = '';
      onstood?.();
    });
  }

  function toShot() {
    project.currentId = shot;
    router.go(project.id, finding.kind === 'named_absent' ? 'sheet' : 'takes');
  }

  const focus = (node: HTMLElement) => node.focus();
</script>

{#snippet square(which: number, alt: string, size: string)}
  <!-- One picture holds the three squares side by side; this shows one of them. -->
  <span class="well block aspect-square overflow-hidden {size}"><img class="h-full max-w-none" style="width:300%;margin-left:{-100 * which}%" src={laid} {alt} /></span>
{/snippet}

<h2 class="font-book text-[18px] leading-[23px] font-semibold" data-finding={finding.kind}>{finding.title}</h2>
<p class="mt-0.5 mb-3 text-soft">
  {thread ? `${thread.name} · ` : ''}{finding.before ? `shots ${project.number(finding.before)} and ${project.number(shot)}` : `shot ${project.number(shot)}`}{finding.until && finding.until !== finding.shot ? `–${project.number(finding.until)}` : ''}{takeNumber ? ` · take ${takeNumber}` : ''}
</p>

{#if beforePicture && picture}
  <div class="grid grid-cols-2 gap-0.5" data-evidence="cut">
    <figure><span class="well block h-[90px]"><img class="size-full object-contain" src={thumb(beforePicture.sha, 960)} alt="Before the cut" /></span><figcaption class="label mt-1">shot {project.number(finding.before)}</figcaption></figure>
    <figure><span class="well block h-[90px]"><img class="size-full object-contain" src={thumb(picture.sha, 960)} alt="After the cut" /></span><figcaption class="label mt-1">shot {project.number(shot)}</figcaption></figure>
  </div>
{:else if finding.at_s != null && picture?.clip}
  <!-- What slips is plain a little later. -->
  {@const later = Math.min(picture.clip.seconds - 0.05, finding.at_s + 0.4)}
  <div class="grid grid-cols-2 gap-0.5" data-evidence="clip">
    <figure><span class="well block h-[90px]"><img class="size-full object-contain" src={thumb(picture.sha, 960)} alt="The clip's beginning" /></span><figcaption class="label mt-1">at first</figcaption></figure>
    <figure><span class="well block h-[90px]"><img class="size-full object-contain" src="/api/clips/{picture.sha}/frame?at={later.toFixed(3)}&side=640" alt="The clip at {later.toFixed(1)} seconds" /></span><figcaption class="label mt-1">at {later.toFixed(1)} s</figcaption></figure>
  </div>
{:else if laid}
  <div class="grid grid-cols-2 gap-2" data-evidence="laid">
    <figure>
      {@render square(0, "The reference", 'w-full')}
      <figcaption class="label mt-1">reference{cell?.nearest_view ? `, ${cell.nearest_view}` : ''}</figcaption>
    </figure>
    <figure>
      {@render square(1, "The shot's figure laid over it", 'w-full')}
      <figcaption class="label mt-1">shot {project.number(shot)}, laid over it</figcaption>
    </figure>
    <figure class="col-span-2 flex items-center gap-3">
      {@render square(2, "Where they differ", 'w-[116px] shrink-0')}
      <figcaption class="label">Red stripes mark where the figure differs from the reference.</figcaption>
    </figure>
  </div>
{:else if cell?.box && anchor && take && !WHOLE.includes(finding.kind)}
  <div class="grid grid-cols-2 gap-2">
    <figure>
      <span class="well block h-[132px]"><img class="size-full object-contain" src={crop(anchor.sha, grown(anchor.box), 300)} alt="Anchor" /></span>
      <figcaption class="label mt-1">anchor, {anchor.name}</figcaption>
    </figure>
    <figure>
      <span class="well flex h-[132px] items-center justify-center">
        <span class="relative block max-h-full max-w-full" style="aspect-ratio:{shown.w}/{shown.h};{shown.w > 0.9 * shown.h ? 'width:100%' : 'height:100%'}">
          <img class="size-full object-contain" src={crop(take.picture_sha, shown, 300, light)} alt="Shot, light taken out" />
          {#if FRAMED.includes(finding.kind) && finding.region}{@const r = finding.region}<span class="absolute -m-1 box-content border-2 border-red p-0.5 outline-2 outline-white" style="left:{(100 * (r.x - shown.x)) / shown.w}%;top:{(100 * (r.y - shown.y)) / shown.h}%;width:{(100 * r.w) / shown.w}%;height:{(100 * r.h) / shown.h}%" data-region></span>{/if}
        </span>
      </span>
      <figcaption class="label mt-1">shot {project.number(shot)}, light taken out</figcaption>
    </figure>
  </div>
{:else if backPicture && picture}
  <div class="grid grid-cols-2 gap-2">
    <figure><span class="well block h-[90px]"><img class="size-full object-contain" src={thumb(backPicture.sha, 960)} alt="Go back to" /></span><figcaption class="label mt-1">go back to shot {project.number(finding.back_to!)}</figcaption></figure>
    <figure><span class="well block h-[90px]"><img class="size-full object-contain" src={thumb((finding.until && project.pictureOf(finding.until)?.sha) || picture.sha, 960)} alt="Where it has come to" /></span><figcaption class="label mt-1">shot {project.number(finding.until ?? finding.shot)}</figcaption></figure>
  </div>
{:else if picture}
  <div class="grid {anchor && (thread?.kind === 'style' || thread?.kind === 'setting') ? 'grid-cols-2' : ''} gap-2">
    {#if anchor && (thread?.kind === 'style' || thread?.kind === 'setting')}
      <figure><span class="well block h-[90px]"><img class="size-full object-contain" src={thumb(anchor.sha, 960)} alt="Reference" /></span><figcaption class="label mt-1">{thread.kind === 'style' ? 'style' : 'reference'}, {anchor.name}</figcaption></figure>
    {/if}
    <figure>
      <span class="well flex items-center justify-center {thread?.kind === 'style' || (anchor && thread?.kind === 'setting') ? 'h-[90px]' : 'h-[150px]'}">
        <span class="relative block h-full max-w-full" style="aspect-ratio:{picture.width}/{picture.height}">
          <img class="size-full object-contain" src={thumb(picture.sha, 960)} alt="Shot" />
          {#if SECOND.includes(finding.kind) && cell?.box}<span class="absolute border-2 border-pencil" style={at(cell.box)}></span>{/if}
          {#if finding.region && thread?.kind !== 'style'}<span class="absolute border-2 border-red" style={at(finding.region)} data-region></span>{/if}
        </span>
      </span>
      <figcaption class="label mt-1">shot {project.number(shot)}{SECOND.includes(finding.kind) && cell?.box ? ': the marked one in blue, the other in red' : ''}</figcaption>
    </figure>
  </div>
{/if}

<dl class="mt-3">
  {#each finding.evidence ?? [] as row, i (i)}
    <div class="flex flex-wrap items-baseline justify-between gap-x-3 border-b border-hair py-[5px]">
      <dt class="shrink-0 {row.measured.length > 30 ? '' : 'max-w-[60%]'}">{row.label}</dt>
      <dd class="min-w-0 flex-1 text-right">
        {#if row.expected_hex ?? row.measured_hex}<span class="mr-1 inline-block size-3.5 translate-y-[2px] border border-black/20" style="background:{row.expected_hex ?? row.measured_hex}"></span>{/if}{row.measured}{row.expected && row.expected !== row.measured ? `, ${row.label.startsWith('Difference') ? 'allowed' : 'expected'} ${row.expected}` : ''}
      </dd>
      {#if row.behind}<dd class="basis-full text-[11.5px] leading-[15px] text-soft">{row.behind}</dd>{/if}
    </div>
  {/each}
</dl>
<p class="mt-3">{finding.advice}</p>

{#if stet}
  <div class="mt-4 rounded-sm border border-line p-3">
    <span class="tracking-[3px]">••••</span> <b>Stet:</b> {stet.reason}
    <button class="btn mt-2 block" onclick={() => project.unstand(found.key)}>Take the stet back</button>
  </div>
{/if}
<div class="mt-4 flex flex-col gap-1.5">
  {#each words as word (word.key)}
    <button class="btn flex justify-between py-1.5 text-left" onclick={word.say} data-act="say-{word.key}">{word.words} <span class="text-soft">{word.key.toUpperCase()}</span></button>
  {/each}
  {#if finding.kind !== 'named_absent'}
    <button class="btn flex justify-between py-1.5" onclick={onreplace} data-act="replace">Replace the picture … <span class="text-soft">R</span></button>
  {/if}
  <button class="btn flex justify-between py-1.5" onclick={() => project.table.lay()} data-act="table">Compare on the light table <span class="text-soft">L</span></button>
  <button class="btn flex justify-between py-1.5" onclick={toShot} data-act="go">Go to shot {project.number(shot)} <span class="text-soft">G</span></button>
  {#if again}
    <p class="rounded-sm border border-line px-2 py-1.5"><b class="text-red">To be made again.</b> <button class="quiet" onclick={() => project.unstand(found.key)}>Take back</button></p>
  {:else if !stet}
    <button class="btn flex justify-between py-1.5" onclick={onretake} data-act="retake-one">Put down for a retake <span class="text-soft">T</span></button>
  {/if}
  {#if !stet}
    {#if stetOpen}
      <form onsubmit={letStand} class="rounded-sm border border-pencil p-2">
        <label class="label">Let it stand, because …
          <input class="field mt-1 text-ink" name="reason" bind:value={reason} {@attach focus} onkeydown={(e) => e.key === 'Escape' && ((stetOpen = false), e.stopPropagation())} />
        </label>
        <button class="btn btn-main mt-2 w-full" disabled={!reason.trim()}>Stet</button>
      </form>
    {:else}
      <button class="btn flex justify-between py-1.5" onclick={() => (stetOpen = true)} data-act="stet">Stet, because … <span class="text-soft">S</span></button>
    {/if}
  {/if}
</div>
<p class="mt-4 text-soft">Finding {place} of {count} · <span class="key">]</span> next <span class="key">[</span> back</p>
