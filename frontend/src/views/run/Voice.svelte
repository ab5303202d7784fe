<script lang="ts">
  import { tick } from 'svelte';
  import { useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { counted } from '../../lib/words';
  import type { SoundState } from './sound-state.svelte';

  /** A scratch voice, line by line, with its text before you; every take is kept, one of them is heard. */
  let { sounds }: { sounds: SoundState } = $props();
  const project = useProject();
  let list = $state<HTMLElement | null>(null);
  const at = $derived(sounds.line);
  const takes = $derived((at?.line.takes ?? []).map((id) => project.sounds.get(id)).filter((s) => s !== undefined));
  const short = $derived.by(() => {
    const span = at && sounds.run.spans.find((s) => s.id === at.shot);
    return span && sounds.over(span.id) > 0.05 ? { need: sounds.said.get(span.id)!, has: span.length_s } : null;
  });
  const who = (id: string | null, name: string) => (id ? project.threads.get(id)?.name : name) || 'The teller';
  const level = $derived(Math.max(0, 1 + Math.log10(Math.max(1e-3, sounds.meter.level)) / 2));

  $effect(() => {
    void sounds.lineAt;
    void tick().then(() => list?.querySelector(`[data-line='${sounds.lineAt}']`)?.scrollIntoView({ block: 'nearest' }));
  });
</script>

{#if !sounds.lines.length}
  <div class="px-5 py-10 text-center">
    <h2 class="mb-2 font-book text-[18px] font-semibold">No words to say yet</h2>
    <p class="mb-4 text-soft">A line to record is the words that a shot covers in the story, or a speech of a script.</p>
    <button class="btn" onclick={() => router.go(project.id, 'story')}>To the story</button>
  </div>
{:else if at}
  <div class="flex h-full flex-col">
    <div class="shrink-0 border-b border-line px-4 pt-3 pb-3" data-voice-line>
      <div class="flex items-baseline justify-between text-[12.5px] text-soft"><span><b class="text-ink">Shot {project.number(at.shot)}</b>, {who(at.line.thread_id ?? takes.at(-1)?.thread_id ?? null, at.line.who)}</span><span>line {sounds.lineAt + 1} of {sounds.lines.length}{sounds.unsaid ? `, ${sounds.unsaid} without a voice` : ''}</span></div>
      <p class="my-2 max-h-[230px] overflow-y-auto font-book text-[21px] leading-[1.45]">{at.line.words}</p>
      <div class="flex items-center gap-2">
        <button class="btn {sounds.recording ? '' : 'btn-main'}" onclick={() => sounds.record()} disabled={sounds.asking} data-record>
          {#if sounds.recording}<span class="mr-1.5 inline-block size-[10px] bg-red align-[-1px]"></span>End {:else}<span class="mr-1.5 inline-block size-[10px] rounded-full bg-red align-[-1px]"></span>Record {/if}<span class="key ml-1 {sounds.recording ? '' : '!border-current !text-inherit'}">R</span>
        </button>
        {#if sounds.recording}
          <span class="w-12 text-right" role="timer">{sounds.meter.seconds.toFixed(1)} s</span>
          <span class="h-[10px] flex-1 border border-line" role="meter" aria-label="Level of the microphone" aria-valuenow={Math.round(100 * level)} aria-valuemin="0" aria-valuemax="100"><span class="block h-full {sounds.meter.clipped ? 'bg-red' : 'bg-ink'}" style="width:{Math.min(100, 100 * level)}%"></span></span>
          <button class="quiet" onclick={() => sounds.dropRecording()}>put away <span class="key">Esc</span></button>
        {:else if sounds.asking}<span class="text-soft">The browser asks whether this page may listen …</span>
        {:else if sounds.coming}<span class="text-soft" role="status">being kept …</span>
        {:else}<span class="flex-1"></span><button class="btn" onclick={() => sounds.stepLine(-1)} aria-label="Line before" disabled={sounds.lineAt === 0}>↑</button><button class="btn" onclick={() => sounds.stepLine(1)} aria-label="Next line" disabled={sounds.lineAt >= sounds.lines.length - 1}>↓</button>{/if}
      </div>
      {#if sounds.recording && sounds.meter.clipped}<p class="mt-1 font-semibold text-red">It clips: go further from the microphone, or turn it down.</p>{/if}
      {#if short}<p class="mt-2"><span class="font-semibold text-red">The line takes {short.need.toFixed(1)} s, the shot has {short.has.toFixed(1)}.</span> <button class="btn ml-1" onclick={() => sounds.followVoice([at.shot])} data-follow-one>Give it the time</button></p>{/if}
      {#if takes.length}
        <ul class="mt-2 border-t border-hair" aria-label="Takes of this line">
          {#each takes as take, i (take.id)}
            {@const heard = sounds.heard.get(take.id)}
            <li class="flex items-center gap-2 border-b border-hair py-0.5" data-voice-take={take.id}>
              <button class="flex min-h-6 min-w-0 flex-1 items-center gap-2 text-left {take.picked ? 'font-semibold' : 'text-soft hover:text-ink'}" aria-pressed={take.picked} title={take.picked ? 'This take is heard' : 'Let this take be heard'} onclick={() => sounds.pick(take.id)}>
                <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true" class="shrink-0 text-pencil"><circle cx="6" cy="6" r="5" fill="none" stroke="currentColor" />{#if take.picked}<circle cx="6" cy="6" r="2.8" fill="currentColor" />{/if}</svg>
                take {i + 1} <span class="font-normal text-soft">{heard ? `${heard.seconds.toFixed(1)} s` : ''}{heard && heard.peak >= 0.999 ? ', at full level' : heard && !heard.heard.length ? ', nothing is heard' : ''}</span>
              </button>
              <button class="quiet" onclick={() => sounds.listen(take.id)} aria-label="{sounds.listening === take.id ? 'Stop' : 'Hear'} take {i + 1}">{sounds.listening === take.id ? '■' : '▶'}</button>
              <button class="quiet" onclick={() => sounds.remove(take.id)} aria-label="Remove take {i + 1}">×</button>
            </li>
          {/each}
        </ul>
      {/if}
    </div>
    <ol class="min-h-0 flex-1 overflow-y-auto py-1" bind:this={list} aria-label="All lines">
      {#each sounds.lines as l, i (`${l.shot} ${l.place}`)}
        <li><button class="flex w-full items-baseline gap-2 px-4 py-1 text-left {i === sounds.lineAt ? 'bg-wash' : 'hover:bg-hair'}" onclick={() => sounds.goToLine(i)} aria-current={i === sounds.lineAt} disabled={Boolean(sounds.recording)} data-line={i}>
          <span class="w-6 shrink-0 font-book text-[15px]">{l.place ? '' : project.number(l.shot)}</span>
          <span class="min-w-0 flex-1 truncate">{l.line.words}</span>
          <span class="shrink-0 text-[12px] {l.line.takes.length ? 'text-soft' : 'text-pencil'}">{l.line.takes.length ? counted(l.line.takes.length, 'take') : 'no voice'}</span>
        </button></li>
      {/each}
    </ol>
    <div class="flex shrink-0 flex-wrap items-center gap-2 border-t border-line px-4 py-2 text-[12.5px]">
      <button class="btn" onclick={() => sounds.followVoice(null)} disabled={!sounds.said.size} title="Shots that are too short for their voice get the time that it takes" data-follow-all>Lengths follow the voice</button>
      <button class="quiet" onclick={() => sounds.followVoice(null, true)} disabled={!sounds.said.size} title="Shots that are longer than their voice are made shorter too">… shorter ones too</button>
    </div>
  </div>
{/if}
