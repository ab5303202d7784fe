<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Thread } from '../../api/client';
  import { useProject } from '../../lib/project-context';

  /** One labelled plate of all views, the anchor first, for services that take few pictures. */
  let { thread, costume }: { thread: Thread; costume: string } = $props();
  const project = useProject();
  let side = $state(1536);
  let margin = $state(24);
  let labels = $state(true);
  let all = $state(false);
  const query = $derived(new URLSearchParams({ side: String(side), margin: String(margin), labels: String(labels), ...(all ? {} : { costume }) }));
  const address = $derived(`/api/projects/${project.id}/threads/${thread.id}/plate.png?${query}`);
</script>

<Popover.Root>
  <Popover.Trigger class="quiet -my-1">One plate of all …</Popover.Trigger>
  <Popover.Portal>
    <Popover.Content role="dialog" aria-label="One plate of all views" class="pop w-[360px] p-4" sideOffset={6}>
      <span class="well mb-3 block h-[200px]"><img src={address} alt="The plate" class="size-full object-contain" /></span>
      <div class="grid grid-cols-2 gap-3">
        <label class="label">Longer side, px<input class="field" type="number" min="256" max="6000" step="64" bind:value={side} /></label>
        <label class="label">Margins, px<input class="field" type="number" min="0" max="200" bind:value={margin} /></label>
      </div>
      <label class="mt-2 flex items-center gap-2"><input type="checkbox" bind:checked={labels} />labels below the views</label>
      <label class="flex items-center gap-2"><input type="checkbox" bind:checked={all} />views of every costume</label>
      <p class="label mt-1">In the order of the views, the anchor first.</p>
      <a class="btn mt-3 inline-block" href={address} download="{thread.name} plate.png">Save the plate</a>
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
