<script lang="ts">
  import { onMount } from 'svelte';
  import { PICTURES, isPicture } from '../../lib/pictures';
  import ShotPanel from '../shot/ShotPanel.svelte';
  import { commands } from '../../lib/commands.svelte';
  import { notices } from '../../lib/notices.svelte';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { SheetState } from '../sheet/sheet-state.svelte';
  import FoundBar from './FoundBar.svelte';
  import FrameView from './FrameView.svelte';
  import LengthBar from './LengthBar.svelte';
  import PageIn from './PageIn.svelte';
  import Choice from '../../components/Choice.svelte';
  import PlanFindings from './PlanFindings.svelte';
  import ShotList from './ShotList.svelte';
  import { StoryState } from './story-state.svelte';
  import TableDialog from './TableDialog.svelte';
  import TextPage from './TextPage.svelte';

  const project = useProject();
  const sheet = new SheetState(project);
  const story = new StoryState(project);
  let left = $state<'text' | 'frame'>('text');
  let right = $state<'shots' | 'findings' | 'facts'>('shots');
  const beside = $derived.by(() => {
    const told = project.findings.plan.open.length + project.lost.length;
    return [['shots', 'Shots'], ...(project.current ? ([['facts', 'Facts']] as const) : []), ['findings', 'Plan', told]] as const;
  });
  let tableOpen = $state(false);
  let page = $state<File | null>(null);
  let textChooser = $state<HTMLInputElement | null>(null);
  let pageChooser = $state<HTMLInputElement | null>(null);
  /** In which language the text is read, and how it marks speech. */
  const readAs = $derived.by(() => {
    const { reading } = project;
    if (!reading?.words) return { words: '', title: '' };
    const language = reading.language ? ` · ${reading.language}` : ' · read by its names';
    const title =
      reading.language === 'English'
        ? 'Read with its grammar: who acts, who speaks, where it is'
        : reading.language
          ? 'Who is named, who speaks, and whom he and she mean are read; places are read from scene headings'
          : 'Names are found by their capital letter and by coming back';
    return { words: `${language}${reading.speech ? ` · speech in ${reading.speech}` : ''}`, title };
  });
  const uncovered = $derived((project.reading?.gaps ?? []).filter((g) => (g.shots?.length ?? 0) === 0).length);

  onMount(() => {
    project.readStory(0);
    return commands.offer('Story', [
      { name: 'Propose shots for what no shot covers', key: 'B', run: () => story.propose() },
      { name: 'Accept all sure proposals', key: 'Shift ↵', run: () => void story.acceptAll() },
      { name: 'Story frame: premise and beats', run: () => (left = 'frame') },
      { name: 'The text', run: () => (left = 'text') },
      { name: 'What the plan says of itself', run: () => (right = 'findings') },
      { name: 'Facts of the current shot', key: 'F', run: () => (right = 'facts') },
      { name: 'The shot list as a table: CSV, PDF, spreadsheet', run: () => (tableOpen = true) },
      { name: 'Shots from a photographed page …', run: () => pageChooser?.click() },
      { name: 'Take in a text file …', run: () => textChooser?.click() },
      { name: 'Text file out', run: () => (location.href = `/api/projects/${project.id}/text/file`) },
      { name: 'Who is asked about is in the proposed shot too', key: 'A', run: () => project.current && void story.isHere(project.current) },
      { name: 'Move what moves to the motion note', key: 'T', run: () => project.current && void story.toMotion(project.current) },
    ]);
  });

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || event.ctrlKey || event.metaKey || page || tableOpen) return;
    const button = event.target instanceof HTMLButtonElement;
    const shot = project.current;
    if (event.key === 'Enter' && event.shiftKey) void story.acceptAll();
    else if (event.key === 'Enter' && !button && shot?.status === 'proposed') {
      const next = project.order.slice(project.currentIndex + 1).find((s) => s.status === 'proposed');
      void story.accept([shot.id]).then((done) => done && next && (project.currentId = next.id));
    } else if (event.key === 'f') right = right === 'facts' ? 'shots' : 'facts';
    else if (event.key === 'b') void story.propose();
    else if (event.key === 'a' && shot) void story.isHere(shot);
    else if (event.key === 't' && shot) void story.toMotion(shot);
    else if (event.key === ',' || event.key === '.') story.stretch('end', event.key === '.' ? 1 : -1);
    else if (event.key === '<' || event.key === '>') story.stretch('start', event.key === '>' ? 1 : -1);
    else if (event.altKey && event.key.startsWith('Arrow') === false) return;
    else if (event.key === 'Enter' && button) return;
    else {
      sheet.column = -1;
      if (!sheet.key(event)) return;
    }
    event.preventDefault();
  }

  async function wroteFrame(text: string) {
    left = 'text';
    const joined = project.text.trim() ? `${project.text.trimEnd()}\n\n${text}` : text;
    story.typed(joined);
    await story.keep();
  }

  function textChosen(event: Event) {
    const input = event.target as HTMLInputElement;
    if (input.files?.[0]) void story.takeInFile(input.files[0]);
    input.value = '';
  }

  function pageChosen(event: Event) {
    const input = event.target as HTMLInputElement;
    page = input.files?.[0] ?? null;
    input.value = '';
  }

  function dropped(event: DragEvent) {
    const file = event.dataTransfer?.files[0];
    if (!file) return;
    event.preventDefault();
    if (isPicture(file)) page = file;
    else if (/\.(csv|tsv)$/i.test(file.name)) notices.say('Open “The shot list as a table” to take in a table.');
    else void story.takeInFile(file);
  }
</script>

<svelte:window {onkeydown} />

<div class="flex h-full" role="region" aria-label="Story" ondragover={(e) => e.dataTransfer?.types.includes('Files') && e.preventDefault()} ondrop={dropped}>
  <section class="flex min-w-0 flex-1 flex-col">
    <div class="flex h-9 shrink-0 items-center gap-1 border-b border-hair px-4">
      <Choice value={left} options={[['text', 'Text'], ['frame', 'Frame']]} label="What to write" onchoose={(what) => (left = what)} />
      <span class="ml-auto label whitespace-nowrap">{story.dirty || story.saving ? 'writing …' : project.reading ? `${project.reading.words} words` : ''}<span title={readAs.title}>{readAs.words}</span>{project.row?.syntax === 'fountain' ? ' · Fountain' : ''}{project.reading?.panels ? ` · comic script, ${project.reading.panels} panels` : ''}{project.reading?.pages ? ` · told by ${project.reading.pages} pages` : ''}{project.reading?.parts ? ` · in ${project.reading.parts} parts` : ''}</span>
      <button class="quiet" onclick={() => textChooser?.click()} title="Plain text, Markdown, Fountain, or a document of a word processor (.docx, .odt, .rtf)">Open …</button>
      <a class="quiet {project.text.trim() ? '' : 'pointer-events-none opacity-50'}" href="/api/projects/{project.id}/text/file" download title="The text with your changes, in the encoding and line ends that it came with">Text file</a>
    </div>
    {#if left === 'text'}
      <TextPage {story} />
      <FoundBar {story} />
    {:else}
      <FrameView onwrite={wroteFrame} />
    {/if}
    <footer class="flex h-11 shrink-0 items-center gap-3 border-t border-line px-4 [&>.btn]:shrink-0">
      <LengthBar />
      <span class="ml-auto"></span>
      {#if project.proposed.length}
        {@const { sure, doubtful } = story.proposals}
        <button class="btn whitespace-nowrap" onclick={() => story.acceptAll()} title={doubtful.length && sure.length ? `Shift Enter. Of ${doubtful.length} it is not sure that a new picture begins there: accept each, or merge it with the one before` : 'Shift Enter'} data-accept-all>
          {sure.length && doubtful.length ? `Accept ${sure.length} of ${sure.length + doubtful.length}` : sure.length ? `Accept all ${sure.length}` : `Accept the last ${doubtful.length} too`}
        </button>
      {/if}
      <button class="btn {project.order.length ? '' : 'btn-main'}" onclick={() => story.propose()} disabled={!project.text.trim() && !story.dirty} title="For the words that no shot covers (B)" data-propose>
        {project.order.length ? (uncovered ? `Propose for ${uncovered} uncovered` : 'Propose again') : 'Propose shots'}
      </button>
    </footer>
  </section>
  <aside class="flex w-[46%] max-w-[540px] shrink-0 flex-col border-l border-line bg-panel">
    <div class="flex h-9 shrink-0 items-center gap-1 border-b border-hair px-3">
      <Choice value={right} options={beside} label="What to see beside the text" onchoose={(what) => (right = what)} />
      <button class="quiet ml-auto" onclick={() => pageChooser?.click()} title="A photo or scan of hand-drawn panels becomes shots">From a page …</button>
      <button class="quiet" onclick={() => (tableOpen = true)}>Table …</button>
    </div>
    {#if right === 'shots'}<ShotList {sheet} {story} onfacts={() => (right = 'facts')} />
    {:else if right === 'findings'}<PlanFindings />
    {:else}<div class="min-h-0 flex-1"><ShotPanel onclose={() => (right = 'shots')} /></div>{/if}
  </aside>
</div>
<input type="file" accept=".txt,.md,.markdown,.fountain,.spmd,.docx,.odt,.rtf,text/*" class="hidden" bind:this={textChooser} onchange={textChosen} data-choose="text" />
<input type="file" accept={PICTURES} class="hidden" bind:this={pageChooser} onchange={pageChosen} data-choose="page" />
{#if tableOpen}<TableDialog bind:open={tableOpen} />{/if}
{#if page}<PageIn file={page} onclose={() => (page = null)} />{/if}
