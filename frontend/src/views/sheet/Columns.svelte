<script lang="ts">
  import { Popover } from 'bits-ui';
  import { api, type Thread } from '../../api/client';
  import { useProject } from '../../lib/project-context';

  /** Which threads are columns of the Sheet, and in which order within their group. */
  const project = useProject();
  const GROUPS: [Thread['kind'], string][] = [['character', 'Characters'], ['setting', 'Settings'], ['style', 'Styles'], ['prop', 'Props']];
  const hidden = $derived(new Set(project.row?.hidden_columns ?? []));

  function show(ids: string[], on: boolean) {
    const next = new Set(hidden);
    for (const id of ids) if (on) next.delete(id); else next.add(id);
    void project.editProject({ hidden_columns: [...next] });
  }

  function move(thread: Thread, by: 1 | -1) {
    const ids = project.columns.map((t) => t.id);
    const own = project.columns.filter((t) => t.kind === thread.kind);
    const other = own[own.indexOf(thread) + by];
    if (!other) return;
    const a = ids.indexOf(thread.id);
    const b = ids.indexOf(other.id);
    [ids[a], ids[b]] = [ids[b]!, ids[a]!];
    void project.send(() => api.PUT('/api/projects/{project_id}/threads/order', { params: { path: { project_id: project.id } }, body: { thread_ids: ids } }));
  }
</script>

<Popover.Root>
  <Popover.Trigger class="quiet whitespace-nowrap {hidden.size ? '!text-pencil' : ''}">Columns{hidden.size ? ` · ${hidden.size} hidden` : ''}</Popover.Trigger>
  <Popover.Portal>
    <Popover.Content role="dialog" aria-label="Which columns" class="pop max-h-[70vh] w-[270px] overflow-y-auto p-4" sideOffset={6} data-columns>
      {#each GROUPS as [kind, name] (kind)}
        {@const own = project.columns.filter((t) => t.kind === kind)}
        {#if own.length}
          {@const on = own.some((t) => !hidden.has(t.id))}
          <label class="mt-1 flex items-center gap-2 font-semibold"><input type="checkbox" checked={on} onchange={() => show(own.map((t) => t.id), !on)} />{name}</label>
          {#each own as t, i (t.id)}
            <div class="flex items-center gap-1 pl-5">
              <label class="flex min-w-0 flex-1 items-center gap-2"><input type="checkbox" checked={!hidden.has(t.id)} onchange={() => show([t.id], hidden.has(t.id))} /><span class="truncate">{t.name}</span></label>
              <button class="quiet px-1" disabled={i === 0} onclick={() => move(t, -1)} aria-label="{t.name} further left">←</button>
              <button class="quiet px-1" disabled={i === own.length - 1} onclick={() => move(t, 1)} aria-label="{t.name} further right">→</button>
            </div>
          {/each}
        {/if}
      {:else}<p class="label">No threads yet.</p>{/each}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
