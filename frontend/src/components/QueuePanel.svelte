<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Job } from '../api/client';
  import { useProject } from '../lib/project-context';
  import { router } from '../lib/router.svelte';
  import { counted } from '../lib/words';

  /** What is asked of services, in every view: how far it is, what waits, what went wrong. */
  const project = useProject();
  const queue = $derived(project.queue);
  let open = $state(false);
  const WORDS: Record<string, string> = { running: 'being made', asking: 'being asked', waiting: 'waits', paused: 'paused', held: 'waits for your yes', done: 'done', failed: 'went wrong', refused: 'refused', cancelled: 'cancelled' };
  const shown = $derived([...queue.wrong, ...queue.open]);
  const label = $derived(queue.openCount ? `${counted(queue.openCount, 'job')}${queue.running ? ` · ${queue.running} in work` : ''}` : queue.wrongCount ? `${counted(queue.wrongCount, 'job')} went wrong` : '');

  function go(job: Job) {
    if (!project.shots.has(job.shot_id)) return;
    project.currentId = job.shot_id;
    open = false;
    router.go(project.id, 'takes');
  }
</script>

{#if label}
  <Popover.Root bind:open>
    <Popover.Trigger class="rounded-sm px-1 whitespace-nowrap {queue.wrongCount ? 'font-semibold text-red' : queue.held.length ? 'font-semibold text-pencil' : 'text-soft'} hover:underline" data-queue>{label}</Popover.Trigger>
    <Popover.Portal>
      <Popover.Content role="dialog" aria-label="Jobs" class="pop flex max-h-[80vh] w-[520px] flex-col p-4" side="bottom" align="end" sideOffset={6}>
        <div class="mb-2 flex items-center gap-2">
          <h2 class="flex-1 font-semibold">What is asked for</h2>
          {#if queue.held.length}<button class="btn" onclick={() => queue.steer('approve', queue.held.map((j) => j.id))}>Yes to {queue.held.length}</button>{/if}
          {#if queue.counts.waiting}<button class="quiet" onclick={() => queue.steer('pause')}>Pause all</button>{/if}
          {#if queue.counts.paused}<button class="quiet" onclick={() => queue.steer('resume')}>Go on</button>{/if}
          {#if queue.wrongCount}<button class="quiet" onclick={() => queue.steer('again')}>Try all again</button>{/if}
          {#if queue.openCount}<button class="quiet" onclick={() => queue.steer('cancel')}>Cancel all</button>{/if}
        </div>
        {#if queue.held.length}<p class="label mb-2">{counted(queue.held.length, 'job')} over the month’s allowance: say yes, or raise the allowance in the ledger.</p>{/if}
        <ul class="min-h-0 flex-1 overflow-y-auto">
          {#each shown as job (job.id)}
            {@const wrong = job.state === 'failed' || job.state === 'refused'}
            <li class="border-t border-hair py-1.5">
              <div class="flex items-center gap-2">
                <button class="min-w-0 flex-1 truncate text-left hover:underline" onclick={() => go(job)}><span class="font-book">{project.shots.has(job.shot_id) ? `Shot ${project.number(job.shot_id)}` : 'A shot that is gone'}</span> <span class="text-soft">{counted(job.count, 'take')}, {job.quality}, {job.service}</span></button>
                <span class="whitespace-nowrap {wrong ? 'font-semibold text-red' : 'text-soft'}">{WORDS[job.state]}{job.taken ? ` · ${job.taken} of ${job.count}` : ''}</span>
                {#if job.state === 'waiting' || job.state === 'paused' || job.state === 'held'}<button class="quiet px-1" title="Do this first" aria-label="Do this first" onclick={() => queue.steer('up', [job.id])}>↑</button>{/if}
                {#if job.state === 'held'}<button class="quiet px-1" onclick={() => queue.steer('approve', [job.id])}>Yes</button>{/if}
                {#if wrong}<button class="quiet px-1" onclick={() => queue.steer('again', [job.id])}>Again</button><button class="quiet px-1" onclick={() => queue.steer('dismiss', [job.id])} aria-label="Put it away" title="Put it away">×</button>
                {:else}<button class="quiet px-1" onclick={() => queue.steer('cancel', [job.id])} aria-label="Cancel" title="Cancel">×</button>{/if}
              </div>
              {#if job.state === 'running' || job.state === 'asking'}<div class="mt-1 h-1 bg-hair"><div class="h-full bg-pencil" style="width:{Math.max(3, job.progress * 100)}%"></div></div>{/if}
              {#if job.message && job.state !== 'held'}<p class="label mt-0.5">{job.message}</p>{/if}
            </li>
          {/each}
        </ul>
        {#if queue.openCount > queue.open.length}<p class="label mt-2">and {queue.openCount - queue.open.length} more</p>{/if}
      </Popover.Content>
    </Popover.Portal>
  </Popover.Root>
{/if}
