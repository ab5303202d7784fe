<script lang="ts">
  import type { Sound, SoundKind } from '../../api/client';
  import Choice from '../../components/Choice.svelte';
  import { useProject } from '../../lib/project-context';
  import type { SoundState } from './sound-state.svelte';

  /** The sound that is looked at: what it is, where it lies, how loud it is. */
  let { sounds, sound }: { sounds: SoundState; sound: Sound } = $props();
  const project = useProject();
  const KINDS = [['voice', 'voice'], ['music', 'music'], ['effect', 'effect']] as const;
  const heard = $derived(sounds.heard.get(sound.id));
  const laid = $derived(sounds.laid.find((x) => x.sound.id === sound.id));
  const characters = $derived([...project.threads.values()].filter((t) => t.kind === 'character'));
  const later = $derived(project.order.slice(project.number(sound.shot_id) - 1));
  const to_s = $derived(sound.to_s ?? heard?.seconds ?? 0);
  const two = (v: number) => String(Math.round(v * 100) / 100);
  const number = (words: string) => Number(words.trim().replace(',', '.').replace('−', '-'));

  function change(event: Event, make: (value: number) => Parameters<SoundState['edit']>[1]) {
    const input = event.currentTarget as HTMLInputElement;
    const value = number(input.value);
    if (!input.value.trim() || !Number.isFinite(value)) return void (input.value = input.defaultValue);
    void sounds.edit(sound, make(value));
  }
</script>

<div class="border-t border-line px-3 py-2 text-[12.5px]" role="group" aria-label="The sound {sound.name}" data-sound-facts>
  <div class="mb-1 flex items-center gap-2">
    <b class="min-w-0 flex-1 truncate" title={sound.name}>{sound.name}</b>
    <button class="quiet" onclick={() => sounds.listen(sound.id)} aria-label={sounds.listening === sound.id ? 'Stop' : 'Hear it alone'}>{sounds.listening === sound.id ? '■' : '▶'}</button>
    <button class="quiet" onclick={() => sounds.remove(sound.id)} data-remove-sound>remove <span class="key">Del</span></button>
    <button class="quiet" onclick={() => (sounds.chosen = null)} aria-label="Close">×</button>
  </div>
  <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
    <Choice value={sound.kind} options={KINDS} label="What it is" small onchoose={(kind: SoundKind) => sounds.edit(sound, { kind })} />
    {#if sound.kind === 'voice'}
      <label class="flex items-center gap-1">of <select class="plainselect" aria-label="Who speaks" value={sound.thread_id ?? ''} onchange={(e) => sounds.edit(sound, { thread_id: e.currentTarget.value || null })}>
        <option value="">the teller</option>{#each characters as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
      </select></label>
    {/if}
  </div>
  <div class="grid grid-cols-[74px_1fr] items-center gap-y-0.5">
    <span class="text-soft">begins</span>
    <span class="flex items-center gap-1.5"><input class="plainselect" inputmode="decimal" value={two(heard?.begins_s ?? 0)} aria-label="Begins so many seconds after its shot" onchange={(e) => change(e, (start_s) => ({ start_s }))} /> s after shot {project.number(sound.shot_id)}
      {#if sound.start_s !== null && sound.kind === 'voice'}<button class="quiet" onclick={() => sounds.edit(sound, { start_s: null })}>by itself</button>{/if}</span>
    <span class="text-soft">of the file</span>
    <span class="flex items-center gap-1.5"><input class="plainselect" inputmode="decimal" value={two(sound.from_s)} aria-label="From second" onchange={(e) => change(e, (from_s) => ({ from_s }))} /> to <input class="plainselect" inputmode="decimal" value={two(to_s)} aria-label="To second" onchange={(e) => change(e, (v) => ({ to_s: v }))} /> s <span class="text-soft">of {two(heard?.seconds ?? 0)}</span></span>
    <span class="text-soft">plays</span>
    <select class="plainselect" aria-label="Until" value={sound.until_shot_id ?? ''} onchange={(e) => sounds.edit(sound, { until_shot_id: e.currentTarget.value || null })}>
      <option value="">to its end</option>{#each later as shot (shot.id)}<option value={shot.id}>until shot {project.number(shot.id)} ends</option>{/each}
    </select>
    <label class="text-soft" for="gain-{sound.id}">loudness</label>
    <span class="flex items-center gap-2"><input id="gain-{sound.id}" class="w-32" type="range" min="-30" max="12" step="0.5" value={sound.gain_db} onchange={(e) => sounds.edit(sound, { gain_db: Number(e.currentTarget.value) })} /><span>{sound.gain_db > 0 ? '+' : ''}{two(sound.gain_db).replace('-', '−')} dB</span></span>
    <span class="text-soft">fades</span>
    <span class="flex items-center gap-1.5">in <input class="plainselect" inputmode="decimal" value={two(sound.fade_in_s)} aria-label="Seconds of the fade in" onchange={(e) => change(e, (v) => ({ fade_in_s: Math.max(0, v) }))} /> s, out <input class="plainselect" inputmode="decimal" value={two(sound.fade_out_s)} aria-label="Seconds of the fade out" onchange={(e) => change(e, (v) => ({ fade_out_s: Math.max(0, v) }))} /> s
      {#if laid && laid.end_s - laid.start_s < to_s - sound.from_s - 0.05}<span class="text-soft">{two(laid.end_s - laid.start_s)} s are heard</span>{/if}</span>
  </div>
</div>
