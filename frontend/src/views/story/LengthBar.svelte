<script lang="ts">
  import Choice from '../../components/Choice.svelte';
  import { Popover } from 'bits-ui';
  import HeardBar from '../../components/HeardBar.svelte';
  import { api, type Project } from '../../api/client';
  import { duration } from '../../lib/order';
  import { useProject } from '../../lib/project-context';

  /** The plan's length against its target, and at what pace it is read. */
  const project = useProject();
  const LANGUAGES = ['English', 'Dutch', 'Finnish', 'French', 'German', 'Italian', 'Polish', 'Portuguese', 'Spanish', 'Swedish', 'Turkish'];
  const AUDIENCES = ['aloud to children', 'aloud', 'voice-over', 'silent'] as const;
  const row = $derived(project.row);
  const book = $derived(row?.medium === 'book');
  const target = $derived(book ? row?.target_pages : project.target_s);
  const total = $derived(book ? (project.findings.lengths?.pages ?? 0) : project.length_s);
  const share = $derived(target ? total / target : 0);
  const balance = $derived(project.findings.lengths?.balance);
  /** The language of the text, where lengths are counted at the pace of another one. */
  const unlike = $derived(project.reading?.language && row && row.language !== project.reading.language ? project.reading.language : '');
  /** Whether a text that is told by pages is counted as a film. */
  const byPages = $derived(!!project.reading?.pages && !!row && !book);
  const told = (v: number) => (book ? `${v} ${v === 1 ? 'page' : 'pages'}` : duration(v));

  function setTarget(event: Event) {
    const words = (event.target as HTMLInputElement).value.trim();
    if (book) return void project.editProject({ target_pages: Number(words) || null });
    const parts = /^(?:(\d+)\s*(?:min|m|:)\s*)?(\d+)?\s*s?$/.exec(words);
    const seconds = parts ? 60 * Number(parts[1] ?? 0) + Number(parts[2] ?? 0) : NaN;
    void project.editProject({ target_s: seconds > 0 ? seconds : null });
  }

  const post = (path: '/api/projects/{project_id}/plan/fit' | '/api/projects/{project_id}/plan/time') =>
    project.send(() => api.POST(path, { params: { path: { project_id: project.id } }, body: {} }));
</script>

<Popover.Root>
  <Popover.Trigger class="flex min-w-0 items-center gap-3 rounded-sm px-1 py-1 hover:bg-hair" data-length>
    <span class="text-soft">Length</span>
    <span class="relative h-2 w-[110px] min-w-[50px] shrink bg-hair">
      <span class="absolute inset-y-0 left-0 bg-well" style="width:{(total ? Math.min(1, share || 1) : 0) * 100}%"></span>
      {#if target && share <= 1}<span class="absolute -inset-y-1 right-0 w-0.5 bg-ink"></span>{/if}
      {#if share > 1}<span class="absolute inset-y-0 right-0 bg-red" style="width:{(1 - 1 / share) * 100}%"></span>{/if}
    </span>
    <span class="whitespace-nowrap {share > 1.005 ? 'text-red' : ''}">{told(total)}{target ? ` of ${told(target)}` : ''}</span>
    {#if byPages}<span class="label whitespace-nowrap" data-by-pages>counted as a film</span>
    {:else if unlike}<span class="label whitespace-nowrap" data-pace-unlike>at {row?.language} pace</span>{/if}
  </Popover.Trigger>
  <Popover.Portal>
    <Popover.Content role="dialog" aria-label="Length and pace" class="pop w-[400px] p-4" side="top" align="start" sideOffset={8}>
      <div class="mb-3 flex items-center gap-2">
        <span class="label w-20">This is a</span>
        <Choice value={row?.medium ?? 'film'} options={[['film', 'film, in seconds'], ['book', 'book, in pages']]} label="What this is" onchoose={(medium) => project.editProject({ medium })} />
      </div>
      {#if byPages}
        <p class="mb-3 pl-[88px]">The text is told by pages. <button class="underline" onclick={() => project.editProject({ medium: 'book' })} data-take-book>Count it as a book</button></p>
      {/if}
      <label class="mb-3 flex items-center gap-2">
        <span class="label w-20">Wanted</span>
        {#key book}<input class="field !w-32" name="target" value={target ? (book ? target : duration(target)) : ''} placeholder={book ? '32' : '2 min 15 s'} onchange={setTarget} onkeydown={(e) => e.key === 'Enter' && e.currentTarget.blur()} />{/key}
        <span class="label">{book ? 'pages; a spread counts two' : 'minutes and seconds'}</span>
      </label>
      <div class="mb-3 flex items-center gap-2">
        <span class="label w-20">Read</span>
        <select class="field !w-auto" value={row?.audience} onchange={(e) => project.editProject({ audience: e.currentTarget.value as Project['audience'] })}>{#each AUDIENCES as a (a)}<option>{a}</option>{/each}</select>
        <select class="field !w-auto" value={row?.language} onchange={(e) => project.editProject({ language: e.currentTarget.value })}>{#each LANGUAGES as l (l)}<option>{l}</option>{/each}</select>
      </div>
      {#if unlike}
        <p class="mb-3 pl-[88px]">The text is in {unlike}. <button class="underline" onclick={() => project.editProject({ language: unlike })} data-take-language>Read it at the pace of {unlike}</button></p>
      {/if}
      <label class="mb-3 flex items-center gap-2">
        <span class="label w-20">Pace</span>
        <input type="range" min="0.6" max="1.6" step="0.05" value={row?.pace_factor ?? 1} onchange={(e) => project.editProject({ pace_factor: Number(e.currentTarget.value) })} />
        <span class="label">{Math.round(project.findings.lengths?.words_per_minute ?? 0)} words a minute, and pauses</span>
      </label>
      {#if balance}
        <div class="border-t border-hair pt-3"><HeardBar heard={project.findings.lengths!} wide /></div>
        <p>Spoken {duration(project.findings.lengths!.spoken_s)}, told {duration(project.findings.lengths!.told_s)}, only seen {duration(project.findings.lengths!.shown_s)}.</p>
        <p>Words and action need {duration(balance.least_s)}.
          {#if balance.words_too_many}<span class="text-red">About {balance.words_too_many} words have to go, or the target is too short.</span>
          {:else if balance.trims?.length && target && !book}{balance.over_s > 0 ? `${duration(balance.over_s)} too long` : `${duration(-balance.over_s)} to spare`}: {balance.trims.length} shots would change.{/if}
        </p>
      {/if}
      {#if target && !book}
        <ul class="mt-1 max-h-[110px] overflow-y-auto text-[12.5px]" aria-label="What has to give">
          {#each [...(balance?.trims ?? [])].sort((a, b) => b.length_s - b.proposed_s - (a.length_s - a.proposed_s)) as t (t.shot)}
            <li><button class="flex w-full gap-3 text-left hover:bg-wash" onclick={() => (project.currentId = t.shot)}><span class="w-8 text-right">{project.number(t.shot)}</span>{t.length_s} s → {t.proposed_s} s</button></li>
          {/each}
        </ul>
      {/if}
      <div class="mt-3 flex gap-2">
        <button class="btn" onclick={() => post('/api/projects/{project_id}/plan/time')}>Set lengths from the words</button>
        <button class="btn" disabled={!balance?.trims?.length || !project.target_s || book} onclick={() => post('/api/projects/{project_id}/plan/fit')}>Fit to the target</button>
      </div>
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
