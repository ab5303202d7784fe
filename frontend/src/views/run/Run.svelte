<script lang="ts">
  import { onDestroy, onMount, untrack } from 'svelte';
  import Choice from '../../components/Choice.svelte';
  import { commands } from '../../lib/commands.svelte';
  import { notices } from '../../lib/notices.svelte';
  import { meantElsewhere, useProject } from '../../lib/project-context';
  import { router } from '../../lib/router.svelte';
  import { chosenFiles, droppedFiles } from '../../lib/files';
  import { BridgeState } from './bridge-state.svelte';
  import Bridges from './Bridges.svelte';
  import Exposure from './Exposure.svelte';
  import { JOINS, RunState, TRIMS } from './run-state.svelte';
  import SoundFacts from './SoundFacts.svelte';
  import SoundNotes from './SoundNotes.svelte';
  import { SoundState } from './sound-state.svelte';
  import Stage from './Stage.svelte';
  import { clock } from './timeline';
  import Voice from './Voice.svelte';

  const project = useProject();
  const view = new RunState(project);
  const { player } = view;
  const sounds = new SoundState(view);
  const bridges = new BridgeState(view);
  /** What stands beside the stage: time running down, the lines to record, what is wrong with the sound, or shots that are missing. */
  let beside = $state<'time' | 'voice' | 'listen' | 'between'>('time');
  let files = $state<HTMLInputElement | null>(null);
  let over_us = $state(false);
  let fit = $state('');
  /** Which words go with which shot; lengths and pictures are none of it. */
  const saidBy = $derived(project.order.map((s) => [s.id, s.spoken, s.start_part_id, s.start_at, s.end_part_id, s.end_at].join()).join(';'));
  const target = $derived(project.target_s);
  const off = $derived(target ? Math.round((view.length_s - target) * 10) / 10 : 0);
  const told = $derived(
    [
      `of ${clock(view.length_s, false)}`,
      target ? `target ${clock(target, false)}` : '',
      target && Math.abs(off) >= 0.1 ? (off > 0 ? `${off} s too long` : `${-off} s free`) : '',
      view.lateness,
      player.speed && player.speed !== 1 ? `${player.speed} ×` : '',
    ].filter(Boolean).join(' · '),
  );
  const spoken = $derived(sounds.said.has(view.span?.id ?? ''));
  const over = $derived.by(() => (!view.span ? 0 : spoken ? sounds.over(view.span.id) : view.over(view.span.id, view.span.length_s)));

  onMount(() => {
    view.goTo(project.currentId);
    const held = () => view.unkept;
    project.unkept.add(held);
    const away = commands.offer('Run-through', [
      { name: 'Play or stop', key: 'Space', run: () => player.toggle() },
      { name: 'Forwards, faster each time', key: 'L', run: () => player.shuttle(1) },
      { name: 'Backwards, faster each time', key: 'J', run: () => player.shuttle(-1) },
      { name: 'Stand still', key: 'K', run: () => player.stop() },
      { name: 'A frame back', key: ',', run: () => player.step(-1) },
      { name: 'A frame on', key: '.', run: () => player.step(1) },
      { name: 'Shot before', key: '↑', run: () => view.shotStep(-1) },
      { name: 'Next shot', key: '↓', run: () => view.shotStep(1) },
      { name: 'Make the shot shorter; with Shift by a second', key: '[', run: () => view.trimBy(-0.2) },
      { name: 'Make the shot longer; with Shift by a second', key: ']', run: () => view.trimBy(0.2) },
      { name: 'Trim by ripple or by roll', key: 'T', run: () => view.pressed('t') },
      { name: 'Loop the scene', key: 'O', run: () => view.toggleLoop() },
      { name: 'Light table', key: 'Shift L', run: () => project.table.lay() },
      { name: 'Comes by a cut, a dissolve or a fade', key: 'D', run: () => view.nextJoin() },
      { name: 'Record the words, line by line', key: 'V', run: () => (beside = beside === 'voice' ? 'time' : 'voice') },
      { name: 'Record the line, or end the recording', key: 'R', run: () => sounds.record() },
      { name: 'Shots that are missing between two', key: 'B', run: () => (beside = 'between') },
      { name: 'Lay a sound file …', run: () => files?.click() },
      { name: 'Lengths follow the voice', run: () => sounds.followVoice(null) },
    ]);
    return () => {
      away();
      project.unkept.delete(held);
    };
  });
  onDestroy(() => {
    sounds.close();
    bridges.close();
    view.close();
  });
  $effect(() => {
    // What lies where is the server's to say; levels and lines too.
    void [project.sounds, project.shots, project.text, project.threads];
    untrack(() => sounds.readSoon(sounds.track.sounds.length || sounds.track.shots.length ? undefined : 0));
  });
  $effect(() => {
    // A bridge stands where findings do, and goes with them.
    void [project.shots, project.beads, project.stets, project.sounds, project.text, project.findings.check, project.findings.plan];
    untrack(() => bridges.readSoon(bridges.read ? undefined : 0));
  });
  $effect(() => {
    const runs = player.speed === 1;
    sounds.player.follow(sounds.laid, player.time_s, runs);
    if (runs) untrack(() => sounds.hush());
  });
  $effect(() => {
    const id = view.span?.id;
    untrack(() => sounds.toShot(id));
  });

  function onSoundKey(event: KeyboardEvent): boolean {
    if (beside === 'between' && bridges.one) {
      if (event.key === 'Enter') return void bridges.putIn(), true;
      if (event.key === 'x' || event.key === 'X') return void bridges.refuse(), true;
      if (event.key === 'ArrowDown' || event.key === 'ArrowUp') return bridges.look(bridges.at + (event.key === 'ArrowDown' ? 1 : -1)), true;
    }
    if (event.key === 'b') {
      beside = beside === 'between' ? 'time' : 'between';
      if (beside === 'between' && bridges.one) bridges.look(bridges.at);
    } else if (event.key === 'v') beside = beside === 'voice' ? 'time' : 'voice';
    else if (event.key === 'r' && beside === 'voice') void sounds.record();
    else if (event.key === 'Escape' && sounds.recording) void sounds.dropRecording();
    else if (event.key === 'Escape' && sounds.chosen) sounds.chosen = null;
    else if (beside === 'voice' && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) sounds.stepLine(event.key === 'ArrowDown' ? 1 : -1);
    else if (event.key === 'Delete' && sounds.chosen) void sounds.remove(sounds.chosen);
    else if (sounds.recording) return event.key.length === 1 || event.key.startsWith('Arrow');
    else return false;
    return true;
  }

  async function onDrop(event: DragEvent) {
    over_us = false;
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    await sounds.lay(await droppedFiles(event.dataTransfer));
  }

  $effect(() => {
    // The words and the pace are the server's to read.
    void [project.text, project.sounds, project.row?.pace_factor, project.row?.audience, project.row?.language, saidBy];
    untrack(() => view.readSoon(view.reading.size ? undefined : 0));
  });
  /** The shot under the line is the current one; one that is chosen elsewhere comes under the line. */
  let followed: string | null | undefined = null;
  $effect(() => {
    const id = view.span?.id;
    untrack(() => {
      if (!id || id === followed) return;
      followed = id;
      project.currentId = id;
    });
  });
  $effect(() => {
    const id = project.currentId;
    untrack(() => {
      if (!id || id === view.span?.id) return;
      followed = id;
      view.goTo(id);
      view.followLoop();
    });
  });
  $effect(() => {
    if (view.looping && view.scene && !player.loop) untrack(() => view.followLoop());
  });

  function onkeydown(event: KeyboardEvent) {
    if (meantElsewhere(event) || project.table.open || event.ctrlKey || event.metaKey || event.altKey) return;
    const target = event.target as HTMLElement;
    if (target instanceof HTMLButtonElement && (event.key === 'Enter' || event.key === ' ')) return;
    if (['radio', 'slider'].includes(target.getAttribute('role') ?? '') && /^(Arrow|Home|End)/.test(event.key)) return;
    if (event.key === 'L') project.table.lay(project.table.ofShot(view.span?.id).concat(project.table.neighbours()));
    else if (!onSoundKey(event) && !view.pressed(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
  }

  async function fitScene() {
    const wanted = Number(fit.replace(',', '.'));
    if (!(wanted >= 1)) return notices.say('Give the scene at least a second.', 'trouble');
    fit = '';
    (document.activeElement as HTMLElement | null)?.blur();
    await view.fitScene(wanted);
  }
  const KEYS = [['Space', 'play'], [', .', 'a frame'], ['[ ]', 'shorter, longer'], ['J K L', 'back, stop, on'], ['O', 'loop the scene']] as const;
</script>

<svelte:window onkeydowncapture={onkeydown} />

{#if !project.order.length}
  <div class="mx-auto max-w-[460px] py-24 text-center">
    <h2 class="mb-2 font-book text-[20px] font-semibold">Nothing to play yet</h2>
    <p class="mb-5 text-soft">The run-through plays your shots with their words at the lengths of the plan. Plan shots first; pictures may come later.</p>
    <button class="btn btn-main" onclick={() => router.go(project.id, 'story')}>To the story</button>
  </div>
{:else}
  <div class="flex h-full">
    <section class="flex min-w-0 flex-1 flex-col" aria-label="Stage">
      <div class="flex h-[46px] shrink-0 items-center gap-3 px-4">
        <span class="min-w-0 flex-1 truncate"><b class="font-book text-[15px]">{view.scene?.title || 'Scene'}</b> <span class="text-soft">{view.scene_s.toFixed(1)} s</span></span>
        <form class="flex items-center gap-1.5" onsubmit={(e) => { e.preventDefault(); void fitScene(); }}>
          <label class="flex items-center gap-1.5">Fit the scene to <input class="field !w-16 text-right" inputmode="decimal" placeholder={view.scene_s.toFixed(0)} bind:value={fit} data-fit /> s</label>
          <button class="btn" disabled={!fit}>Fit</button>
        </form>
        <label class="flex items-center gap-1.5"><input type="checkbox" checked={view.looping} onchange={() => view.toggleLoop()} />loop the scene <span class="key">O</span></label>
      </div>
      <div class="well min-h-0 flex-1 p-5"><Stage {view} /></div>
      <p class="h-[72px] shrink-0 overflow-hidden px-8 pt-2.5 text-center font-book text-[20px] leading-[1.4] italic" aria-hidden="true" data-caption>{#if view.caption}<span>{view.caption.read}</span><span class="text-pencil">{view.caption.rest}</span>{/if}</p>
      <div class="flex shrink-0 items-baseline justify-center gap-3 pb-2">
        <button class="rounded-sm px-2 text-[24px] leading-none hover:bg-hair" aria-label={player.playing ? 'Stop' : 'Play'} onclick={() => player.toggle()} data-play>
          <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true" class="inline" fill="currentColor">{#if player.playing}<path d="M3 2h4v14H3zM11 2h4v14h-4z" />{:else}<path d="M3 1 L17 9 L3 17 Z" />{/if}</svg>
        </button>
        <b class="text-[25px] leading-none" data-time>{clock(player.shown_s)}</b>
        <span class="text-soft" data-told data-due={player.due} data-late={player.late}>{told}</span>
      </div>
      <p class="flex shrink-0 flex-wrap justify-center gap-x-4 gap-y-1 px-4 pb-3 text-[12.5px] text-soft">
        {#each KEYS as [key, name] (key)}<span><span class="key">{key}</span> {name}</span>{/each}
      </p>
    </section>
    <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
    <aside
      class="relative flex w-[416px] shrink-0 flex-col border-l border-line" aria-label="Time and sound"
      ondragover={(e) => { if (e.dataTransfer?.types.includes('Files')) { e.preventDefault(); over_us = true; } }} ondragleave={(e) => { if (!e.currentTarget.contains(e.relatedTarget as Node)) over_us = false; }} ondrop={onDrop}
    >
      <div class="flex h-[46px] shrink-0 items-center gap-2 border-b border-line px-3">
        <Choice value={beside} options={[['time', 'Time'], ['voice', 'Voice'], ['listen', 'Listen', sounds.track.notes.length], ['between', 'Between', bridges.all.length]] as const} label="Beside the stage" onchoose={(b) => (beside = b)} />
        <span class="flex-1"></span>
        {#if sounds.coming}<span class="text-soft" role="status">being read …</span>{/if}
        <button class="btn" onclick={() => files?.click()} title="WAV, FLAC, MP3, OGG or M4A; it is laid where the red line stands" data-lay-sound>Lay a sound</button>
        <input bind:this={files} type="file" class="hidden" accept=".wav,.flac,.mp3,.ogg,.oga,.opus,.m4a,audio/*" multiple aria-label="Sound files" onchange={(e) => { void sounds.lay(chosenFiles(e.currentTarget.files)); e.currentTarget.value = ''; }} />
      </div>
      {#if beside === 'voice'}
        <div class="min-h-0 flex-1"><Voice {sounds} /></div>
      {:else if beside === 'between'}
        <div class="min-h-0 flex-1"><Bridges {bridges} /></div>
      {:else if beside === 'listen'}
        <div class="min-h-0 flex-1"><SoundNotes {sounds} onrecord={() => (beside = 'voice')} onchoose={() => (beside = 'time')} /></div>
        {#if sounds.sound}<SoundFacts {sounds} sound={sounds.sound} />{/if}
      {:else}
        <div class="min-h-0 flex-1"><Exposure {view} {sounds} /></div>
        {#if sounds.sound}<SoundFacts {sounds} sound={sounds.sound} />
        {:else}
          <div class="shrink-0 border-t border-line px-3 py-2 text-[12.5px]">
            {#if over > 0.25}<p class="mb-1 font-semibold text-red">The {spoken ? 'voice' : 'words'} of shot {project.number(view.span?.id)} {spoken ? 'takes' : 'need'} {over.toFixed(1)} s more.</p>{/if}
            <div class="flex items-center gap-2"><span class="w-[88px] text-soft">Trim by <span class="key">T</span></span><Choice value={view.trim} options={TRIMS} label="Trim by" small onchoose={(t) => (view.trim = t)} /><span class="text-soft">{view.trim === 'roll' ? 'the next shot gives or takes' : 'all that follows moves'}</span></div>
            <div class="flex items-center gap-2"><span class="w-[88px] text-soft">Comes by <span class="key">D</span></span><Choice value={view.shot?.join ?? 'cut'} options={JOINS} label="The shot comes by" small onchoose={(j) => view.joinBy(j)} />
              {#if view.shot && view.shot.join !== 'cut'}{@const shot = view.shot}<label class="flex items-baseline gap-1">in <input class="plainselect text-right" inputmode="decimal" value={shot.join_s} aria-label="Seconds of the join" onchange={(e) => view.joinFor(shot, Number(e.currentTarget.value.replace(',', '.')))} /> s</label>{/if}
            </div>
          </div>
        {/if}
      {/if}
      {#if over_us}<div class="pointer-events-none absolute inset-2 grid place-items-center border-2 border-dashed border-pencil bg-wash text-center"><p class="text-[15px] font-semibold">Lay it at {clock(player.time_s)}, with shot {project.number(view.span?.id)}</p></div>{/if}
    </aside>
  </div>
{/if}
