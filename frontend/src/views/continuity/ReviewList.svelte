<script lang="ts">
  import { thumb, type Finding } from '../../api/client';
  import Kink from '../../components/Kink.svelte';
  import { isQuestion } from '../../lib/findings.svelte';
  import { useProject } from '../../lib/project-context';
  import { REASONS, type ReviewState } from './review-state.svelte';

  /** All findings by weight, a group a row; what is looked at is drawn large above. */
  let { review }: { review: ReviewState } = $props();
  const project = useProject();
  const { found, group, groups, left, order, bands } = $derived(review);
  const report = $derived(`/api/projects/${project.id}/continuity-report`);
  const picture = $derived(project.pictureOf(found?.shot));
  const before = $derived(project.pictureOf(found?.before));
  const decided = $derived(found ? project.decidedByKey.get(found.key) : undefined);
  const open = $derived(review.openOf(group));
  /** Terms that vary differently by now, and those that are as they were: of these it is enough to know how many. */
  const moved = $derived(bands.filter((b) => b.moved || !b.used));
  const alike = $derived(bands.length - moved.length);
  const share = (v: number, of: number) => `${(100 * v) / of}%`;

  function intoView(node: HTMLElement, chosen: boolean) {
    if (chosen) node.scrollIntoView({ block: 'nearest' });
    return { update: (now: boolean) => now && node.scrollIntoView({ block: 'nearest' }) };
  }
</script>

{#snippet framed(f: Finding)}
  {@const p = project.pictureOf(f.shot)}
  {#if p}
    <span class="relative inline-block max-h-full max-w-full" style="aspect-ratio:{p.width}/{p.height};height:100%">
      <img src={thumb(p.sha, 960)} alt="Shot {project.number(f.shot)}" class="size-full object-contain" />
      {#if f.region}<span class="absolute border-2 border-red" style="left:{share(f.region.x, p.width)};top:{share(f.region.y, p.height)};width:{share(f.region.w, p.width)};height:{share(f.region.h, p.height)}"></span>{/if}
    </span>
  {/if}
{/snippet}

<div class="flex h-full min-h-0 flex-col">
  <div class="mb-2 flex items-baseline gap-3">
    <h2 class="font-book text-[18px] font-semibold">Review</h2>
    <span class="text-soft" data-left={left.length}>{left.length ? `${left.length} of ${order.length} to decide` : order.length ? 'All is decided.' : ''}</span>
    <span class="ml-auto text-soft">Report:</span>
    <a class="quiet" href="{report}.pdf" download>PDF</a>
    <a class="quiet" href="{report}.html" download>HTML</a>
  </div>
  {#if !order.length}
    <p class="py-16 text-center text-soft">{project.check.status.state === 'done' ? 'Nothing to review: all that was looked at holds.' : 'Check the pictures first; what departs comes here, the weightiest first.'}</p>
  {:else}
    {#if found}
      <div class="mb-2 grid h-[252px] shrink-0 gap-2 {before ? 'grid-cols-2' : ''}" data-review={found.key}>
        {#if before}<span class="well flex h-[252px] items-center justify-center overflow-hidden"><img src={thumb(before.sha, 960)} alt="Shot {project.number(found.before)}" class="max-h-full max-w-full object-contain" /></span>{/if}
        <span class="well flex h-[252px] items-center justify-center overflow-hidden">{#if picture}{@render framed(found)}{:else}<span class="text-soft">no picture</span>{/if}</span>
      </div>
      <div class="mb-3 flex flex-wrap items-center gap-x-1.5 gap-y-1" aria-label="Decide">
        <button class="btn" onclick={() => review.decide('retake')} data-act="retake"><span class="key">T</span> Retake</button>
        <span class="ml-2 text-soft">Let it stand:</span>
        {#each REASONS as reason, i (reason)}
          <button class="btn" onclick={() => review.decide('stet', reason)} data-reason={i + 1}><span class="key">{i + 1}</span> {reason}</button>
        {/each}
        {#if group && open.length > 1}<span class="text-soft">· with <span class="key">Shift</span> all {open.length} of this group</span>{/if}
        {#if decided}
          <span class="basis-full">{decided.verdict === 'retake' ? 'To be made again.' : `•••• ${decided.reason}`} <button class="quiet" onclick={() => project.unstand(found.key)}>Take back</button></span>
        {/if}
      </div>
    {/if}
    <ol class="min-h-0 flex-1 overflow-y-auto border-t border-line" aria-label="Findings by weight">
      {#each groups as g (g.keys[0])}
        <li class="flex gap-3 border-b border-hair py-1.5" data-group={g.cause}>
          <div class="flex max-w-[352px] shrink-0 flex-wrap content-start gap-1">
            {#each g.findings as f (f.key)}
              {@const p = project.pictureOf(f.shot)}
              {@const what = project.decidedByKey.get(f.key)}
              <button
                use:intoView={review.key === f.key} class="w-[84px] p-0.5 text-left {review.key === f.key ? 'bg-wash outline-2 outline-pencil' : ''}"
                onclick={() => review.show(f)} title={f.title} aria-current={review.key === f.key} data-finding-key={f.key}
              >
                <span class="well block h-[50px] {what ? 'opacity-50' : ''}">{#if p}<img src={thumb(p.sha)} alt="" class="size-full object-contain" loading="lazy" />{/if}</span>
                <span class="flex items-center gap-1 text-[12px]"><b class="font-book">{f.before ? `${project.number(f.before)}|` : ''}{project.number(f.shot)}</b>
                  {#if what?.verdict === 'retake'}<span class="text-red">retake</span>{:else if what}<Kink stet />{:else if isQuestion(f)}<span class="text-pencil">?</span>{:else}<Kink />{/if}</span>
              </button>
            {/each}
          </div>
          <div class="min-w-0 flex-1 pt-0.5">
            <p class="font-semibold">{g.title}</p>
            {#if g.why}<p class="text-[12.5px] text-soft">{g.why}</p>{/if}
            {#if g.cause === 'picture'}{#each g.findings as f (f.key)}<p>{f.title}</p>{/each}{/if}
            <p class="text-[12.5px] text-soft">{g.advice}</p>
          </div>
        </li>
      {/each}
      {#if bands.length}
        <li class="py-3" data-bands>
          <h3 class="mb-1 font-semibold">What your decisions taught</h3>
          {#each moved as band (band.thread_id + band.term)}
            <div class="flex items-center gap-3 border-b border-hair py-1.5">
              <svg width="120" height="16" role="img" aria-label="Band before and after">
                <rect x="0" y="3" width="40" height="10" class="fill-hair" /><rect x="0" y="6" width={Math.min(120, 40 * (band.used ? band.after : 1))} height="4" class="fill-pencil" />
                <line x1="40" x2="40" y1="0" y2="16" class="stroke-soft" stroke-dasharray="2 2" />
              </svg>
              <span class="min-w-0 flex-1">{band.words}{#if band.used && band.within} <span class="text-soft">{band.within} {band.within === 1 ? 'finding is' : 'findings are'} within it.</span>{/if}{#if !band.used} <span class="text-soft">Set back: it is as it was.</span>{/if}</span>
              <button class="quiet" onclick={() => review.use(band, !band.used)}>{band.used ? 'Set back' : 'Use it again'}</button>
            </div>
          {/each}
          {#if alike}<p class="py-1.5 text-soft">You decided about {alike} {moved.length ? 'more' : ''} {alike === 1 ? 'kind' : 'kinds'} of finding. {alike === 1 ? 'It' : 'They'} may vary as before: one or two decisions move little.</p>{/if}
        </li>
      {/if}
    </ol>
  {/if}
</div>
