<script lang="ts">
  import { Popover } from 'bits-ui';
  import { api, type Kind } from '../../api/client';
  import { useProject } from '../../lib/project-context';

  let { label = '+ thread', onmade }: { label?: string; onmade?: (thread: string) => void } = $props();
  const project = useProject();
  let open = $state(false);
  let name = $state('');
  let kind = $state<Kind>('character');

  async function make(event: Event) {
    event.preventDefault();
    if (!name.trim()) return;
    const done = await project.send(() =>
      api.POST('/api/projects/{project_id}/threads', { params: { path: { project_id: project.id } }, body: { kind, name } }),
    );
    if (done) {
      name = '';
      open = false;
      const made = done.rows.thread?.[0];
      if (made) onmade?.(made.id);
    }
  }
</script>

<Popover.Root bind:open>
  <Popover.Trigger class="quiet whitespace-nowrap">{label}</Popover.Trigger>
  <Popover.Portal>
    <Popover.Content role="dialog" aria-label="A new thread" class="pop w-[250px] p-4" sideOffset={6}>
      <form onsubmit={make} class="flex flex-col gap-3">
        <div class="grid grid-cols-2 gap-1">
          {#each ['character', 'setting', 'style', 'prop'] as k (k)}
            <label class="flex items-center gap-2"><input type="radio" name="kind" value={k} bind:group={kind} class="accent-[var(--pencil)]" />{k}</label>
          {/each}
        </div>
        <input class="field" placeholder="Name" name="thread-name" bind:value={name} maxlength="120" />
        <button class="btn btn-main" disabled={!name.trim()}>Make it</button>
      </form>
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
