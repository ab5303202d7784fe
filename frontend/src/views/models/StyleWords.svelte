<script lang="ts">
  import { api, ok, sendFile, thumb, type Changed, type Schemas, type Thread } from '../../api/client';
  import Kink from '../../components/Kink.svelte';
  import Swatch from '../../components/Swatch.svelte';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { listOf } from '../../lib/words';

  /** A style's words with a gauge, its don'ts, its colours with roles, and its pictures tried one by one. */
  let { thread, stamp, edit }: { thread: Thread; stamp: string; edit: (values: Partial<Thread>) => void } = $props();
  const project = useProject();
  const ROLES: [Thread['tones'][number]['role'], string][] = [['lead', 'lead'], ['other', 'other'], ['ground', 'ground']];
  let trial = $state.raw<Schemas['StyleTrial'] | null>(null);
  const usual = $derived(project.row?.style_id === thread.id);

  $effect(() => {
    void [stamp, thread.vocabulary, thread.wording];
    const thread_id = thread.id;
    ok(api.GET('/api/projects/{project_id}/threads/{thread_id}/trial', { params: { path: { project_id: project.id, thread_id } } }))
      .then((got) => thread_id === thread.id && (trial = got))
      .catch((error: Error) => notices.say(error.message, 'trouble'));
  });

  const words = $derived(trial?.vocabulary);
  const span = $derived(words ? words.most + 4 : 12);

  async function takeIn(files: FileList | null) {
    const file = files?.[0];
    if (!file) return;
    try {
      await project.receive(await sendFile<Changed>(`/api/projects/${project.id}/threads/${thread.id}/palette`, file));
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }
</script>

<div class="grid grid-cols-[1fr_1fr] gap-x-6 gap-y-4 border-b border-hair p-4">
  <div>
    <label><span class="label">Vocabulary: what the pictures cannot say, with commas</span>
      <input class="field font-book text-[14px]" name="vocabulary" value={thread.vocabulary.join(', ')} placeholder="cut-paper, flat, few outlines" onchange={(e) => edit({ vocabulary: listOf(e.currentTarget.value) })} /></label>
    {#if words}
      {@const good = words.count >= words.fewest && words.count <= words.most}
      <div class="mt-2 flex items-center gap-2" role="meter" aria-valuenow={words.count} aria-valuemin="0" aria-valuemax={span} aria-label="Words of style">
        <span class="relative h-2.5 flex-1 border border-line">
          <span class="absolute inset-y-0 bg-wash" style="left:{(100 * words.fewest) / span}%;right:{100 - (100 * words.most) / span}%"></span>
          <span class="absolute -inset-y-1 w-[3px] {good ? 'bg-ink' : 'bg-red'}" style="left:{Math.min(100, (100 * words.count) / span)}%"></span>
        </span>
        <span class="w-14 text-right text-[12px]">{words.count} {words.count === 1 ? 'word' : 'words'}</span>
      </div>
      <p class="label mt-1">{words.verdict}</p>
    {/if}
    {#if trial?.proposed.length}
      <div class="mt-2 flex flex-wrap items-center gap-1.5" data-proposed-words>
        <span class="label">Its pictures say:</span>
        {#each trial.proposed as p (p.word)}
          <button class="rounded-sm border border-dashed border-pencil px-1.5 text-[12.5px] leading-[20px] text-pencil hover:bg-wash" title="{p.because}. Take it into the vocabulary" onclick={() => edit({ vocabulary: [...thread.vocabulary, p.word] })}>+ {p.word}</button>
        {/each}
      </div>
    {/if}
  </div>
  <div>
    <label><span class="label">Don’ts: what its pictures never have, with commas</span>
      <input class="field font-book text-[14px]" value={thread.donts.join(', ')} placeholder="lettering, photographs" onchange={(e) => edit({ donts: listOf(e.currentTarget.value) })} /></label>
    <label class="mt-3 flex items-center gap-2"><input type="checkbox" checked={usual} onchange={(e) => project.editProject({ style_id: e.currentTarget.checked ? thread.id : null })} />the usual style: every shot has it that has no other</label>
  </div>
  <div>
    <h2 class="mb-1 flex items-baseline justify-between font-semibold">Colours with roles
      <span class="flex gap-1 text-[12px] font-normal">
        {#each ['gpl', 'css', 'json'] as form (form)}<a class="quiet px-1" href="/api/projects/{project.id}/threads/{thread.id}/palette.{form}" title="The palette as a file">{form}</a>{/each}
        <label class="quiet cursor-pointer">take in …<input type="file" accept=".gpl,.css,.json,.txt" class="sr-only" data-choose="palette" onchange={(e) => { void takeIn(e.currentTarget.files); e.currentTarget.value = ''; }} /></label>
      </span></h2>
    {#each ROLES as [role, name] (role)}
      {@const own = thread.tones.filter((t) => t.role === role)}
      <div class="flex items-center gap-2 py-1"><span class="label w-12">{name}</span>
        {#each own as tone (tone.hex)}<Swatch hex={tone.hex} onchange={(hex) => edit({ tones: thread.tones.map((t) => (t === tone ? { ...t, hex } : t)) })} onremove={() => edit({ tones: thread.tones.filter((t) => t !== tone) })} />{/each}
        <label class="grid size-[22px] cursor-pointer place-items-center border border-dashed border-pencil text-pencil" title="Another {name} colour">+<input type="color" class="absolute size-0 opacity-0" onchange={(e) => edit({ tones: [...thread.tones.filter((t) => t.hex !== e.currentTarget.value), { hex: e.currentTarget.value, role }] })} /></label>
      </div>
    {/each}
  </div>
  <div>
    <h2 class="mb-1 font-semibold">Trial: the style without each picture</h2>
    {#each trial?.pictures ?? [] as t (t.reference_id)}
      {@const r = project.references.get(t.reference_id)}
      {#if r}
        <div class="flex items-center gap-2 py-0.5 text-[12.5px]" data-trial={t.odd ? 'odd' : 'fits'}>
          <span class="well size-7 shrink-0"><img src={thumb(r.picture_sha)} alt="" class="size-full object-cover" /></span>
          <span class="w-20 shrink-0 truncate">{r.name}</span>
          <span class="relative h-2 w-24 shrink-0 border border-line" title="Distance from the others; the line is the edge of tolerance"><span class="absolute inset-y-0 left-0 {t.odd ? 'bg-red' : 'bg-soft'}" style="width:{Math.min(100, t.distance * 50)}%"></span><span class="absolute -inset-y-1 left-1/2 w-px bg-ink"></span></span>
          <span class="min-w-0 flex-1 truncate text-soft" title={t.terms.join('; ')}>{#if t.odd}<Kink /> odd one out: {/if}{t.terms[0]?.replace(/ \(.*/, '') ?? 'like the others'}</span>
        </div>
      {/if}
    {:else}<p class="label">Add pictures: with two or more an odd one shows.</p>{/each}
  </div>
</div>
