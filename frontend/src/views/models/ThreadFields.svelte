<script lang="ts">
  import type { Thread } from '../../api/client';
  import { listOf } from '../../lib/words';
  import { useProject } from '../../lib/project-context';

  /** A thread's words: names, the one wording in long and short, what it is never without, and whose it is. */
  let { thread, edit, onremove }: { thread: Thread; edit: (values: Partial<Thread>) => void; onremove: () => void } = $props();
  const project = useProject();
  const people = $derived(project.columns.filter((t) => t.kind === 'character'));
  const figure = $derived(thread.kind === 'character' || thread.kind === 'prop');
</script>

<div class="grid grid-cols-[1fr_1fr_auto] gap-x-5 gap-y-2 border-b border-hair p-4">
  <label><span class="label">{thread.kind[0]!.toUpperCase() + thread.kind.slice(1)}</span>
    <input class="field font-book text-[17px] font-semibold" value={thread.name} onchange={(e) => e.currentTarget.value.trim() && edit({ name: e.currentTarget.value.trim() })} aria-label="Name" />
  </label>
  <label><span class="label">Other names in the text, with commas</span>
    <input class="field" value={thread.aliases.join(', ')} onchange={(e) => edit({ aliases: listOf(e.currentTarget.value) })} />
  </label>
  <span class="flex items-end gap-1 self-end">
    <a class="quiet" href="/api/projects/{project.id}/threads/{thread.id}/model-sheet.pdf" title="The model sheet on one page, to print">PDF</a>
    <a class="quiet" href="/api/projects/{project.id}/threads/{thread.id}/model-sheet.png" title="The model sheet as a picture">PNG</a>
    <button class="quiet" onclick={onremove} title="Can be undone">Delete</button>
  </span>
  <label class="col-span-3"><span class="label">Its one wording, used in every brief</span>
    <textarea class="field block resize-none font-book text-[15px]" rows="1" value={thread.wording} onchange={(e) => edit({ wording: e.currentTarget.value })} placeholder="How it is always described: age, hair, clothes, colours …"></textarea>
  </label>
  <label class={figure ? '' : 'col-span-3'}><span class="label">In short, where a service takes few words</span>
    <input class="field font-book text-[14px]" value={thread.short_wording} onchange={(e) => edit({ short_wording: e.currentTarget.value.trim() })} />
  </label>
  {#if figure}
    <label class="col-span-2"><span class="label">{thread.kind === 'prop' ? 'Belongs to' : 'Never without, with commas'}</span>
      {#if thread.kind === 'prop'}
        <select class="field" value={thread.owner_id ?? ''} onchange={(e) => edit({ owner_id: e.currentTarget.value || null })}><option value="">nobody: it must be named</option>{#each people as p (p.id)}<option value={p.id}>{p.name}</option>{/each}</select>
      {:else}
        <input class="field" value={thread.must_keep.join(', ')} placeholder="tin whistle, scar on the chin" onchange={(e) => edit({ must_keep: listOf(e.currentTarget.value) })} />
      {/if}
    </label>
  {/if}
</div>
