<script lang="ts">
  import { useProject } from '../../lib/project-context';
  import { counted } from '../../lib/words';
  import type { SoundState } from './sound-state.svelte';
  import { clock } from './timeline';

  /** What is wrong with the sound, each with what mends it; and all that lies on the sequence. */
  let { sounds, onrecord, onchoose }: { sounds: SoundState; onrecord: () => void; onchoose: () => void } = $props();
  const project = useProject();
  const MENDS = { 'give time': 'Give it the time', 'take the silence off': 'Take the silence off', 'turn down': 'Turn it down', record: 'Record it', '': '' } as const;
  const others = $derived(sounds.laid.filter((x) => x.sound.kind !== 'voice'));
  const voices = $derived(sounds.laid.length - others.length);
</script>

<div class="h-full overflow-y-auto px-4 py-3">
  <h2 class="mb-1 font-book text-[16px] font-semibold">{sounds.track.notes.length ? 'To listen to' : sounds.laid.length ? 'Nothing is wrong with the sound' : 'Nothing sounds yet'}</h2>
  {#if !sounds.track.notes.length}<p class="mb-3 text-soft">{sounds.laid.length ? 'Nothing clips, nobody speaks at the same time, every line fits its shot.' : 'Drop sound files here, or record the words line by line under “Voice”.'}</p>{/if}
  <ul class="mb-4">
    {#each sounds.track.notes as note, i (i)}
      <li class="border-t border-hair py-1.5" data-sound-note={note.kind}>
        <button class="block w-full text-left font-semibold hover:text-pencil" onclick={() => sounds.goTo(note)}>{note.title}</button>
        <p class="text-soft">{clock(note.at_s)}. {note.advice}</p>
        {#if note.mend}<button class="btn mt-1" onclick={() => { if (note.mend === 'record') { sounds.goTo(note); onrecord(); } else void sounds.mend(note); }}>{MENDS[note.mend]}</button>{/if}
      </li>
    {/each}
  </ul>
  {#if others.length}
    <h3 class="label mb-1">Music and effects</h3>
    <ul>
      {#each others as x (x.sound.id)}
        <li><button class="flex w-full items-baseline gap-2 border-t border-hair py-1 text-left hover:bg-hair" onclick={() => { sounds.chosen = x.sound.id; sounds.run.player.seek(x.start_s); onchoose(); }}>
          <span class="w-10 shrink-0 text-soft">{clock(x.start_s, false)}</span><span class="min-w-0 flex-1 truncate">{x.sound.name}</span><span class="text-soft">{x.sound.kind}, shot {project.number(x.sound.shot_id)}</span>
        </button></li>
      {/each}
    </ul>
  {/if}
  {#if voices}<p class="mt-3 text-soft">{counted(voices, 'line')} with a voice.</p>{/if}
</div>
