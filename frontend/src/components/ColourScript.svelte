<script lang="ts">
  import type { Finding } from '../api/client';
  import { cells, draw } from '../lib/colour-script';
  import { useProject } from '../lib/project-context';
  import { theme } from '../lib/theme.svelte';
  import Kink from './Kink.svelte';

  const project = useProject();
  let width = $state(1000);
  const gap = $derived(project.order.length > 120 ? 0 : 2);
  const cell = $derived(project.order.length ? width / project.order.length : width);

  let canvas = $state<HTMLCanvasElement | null>(null);
  const HEIGHT = 28;
  const drawn = $derived(cells(project.order.map((shot) => project.pictureOf(shot.id)?.palette), width, gap));
  /** Shots with something open or let stand: the only ones that get an element of their own, so that a thousand cells cost one canvas. */
  const signs = $derived.by(() => {
    const { open, again, stood } = project.findings.check;
    const red = new Set([...open, ...again].filter((f) => !f.before).map((f) => f.shot));
    const dots = new Set(stood.filter((f) => !f.before).map((f) => f.shot));
    return project.order.flatMap(({ id }, i) => (red.has(id) || dots.has(id) ? [{ id, i, open: red.has(id) }] : []));
  });
  /** Cuts with something open or let stand: a sign between two cells. */
  const cuts = $derived.by(() => {
    const { open, again, stood } = project.findings.check;
    const of = (found: Finding[], isOpen: boolean) => found.filter((f) => f.before).map((f) => ({ i: project.number(f.shot) - 1, open: isOpen, title: f.title }));
    const by = new Map<number, { i: number; open: boolean; title: string }>();
    for (const cut of [...of(stood, false), ...of([...open, ...again], true)]) by.set(cut.i, cut);
    return [...by.values()].filter((cut) => cut.i > 0);
  });

  $effect(() => {
    void theme.now;
    if (canvas) draw(canvas, drawn, width, HEIGHT, getComputedStyle(canvas).getPropertyValue('--pencil'));
  });

  function under(event: PointerEvent) {
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const i = Math.floor(((event.clientX - box.left) / box.width) * project.order.length);
    return project.order[Math.min(project.order.length - 1, Math.max(0, i))];
  }

  function pick(event: PointerEvent) {
    const shot = under(event);
    if (!shot) return;
    (event.currentTarget as HTMLElement).title = `Shot ${project.number(shot.id)}: ${shot.shows}`;
    if (event.buttons & 1) project.currentId = shot.id;
  }
  const says = $derived.by(() => {
    const shot = project.current;
    if (!shot) return 'no shot';
    const open = project.findings.check.openByShot.get(shot.id)?.length ?? 0;
    return `Shot ${project.number(shot.id)}: ${shot.shows || 'says nothing yet'}${open ? `, ${open} to look at` : ''}`;
  });

  function onkeydown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'ArrowRight' || event.key === 'ArrowDown') project.step(1);
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowUp') project.step(-1);
    else if (event.key === 'Home') project.step(-project.order.length);
    else if (event.key === 'End') project.step(project.order.length);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<section class="border-b border-line px-[18px] pt-1.5 pb-3" aria-label="Colour script" data-colour-script>
  {#if project.order.length === 0}
    <div class="label flex h-7 items-center">The colour script: one cell a shot, striped with its picture's own colours. It fills as you plan.</div>
  {:else}
    <div
      class="relative h-7 cursor-pointer touch-none" bind:clientWidth={width} onpointerdown={pick} onpointermove={pick} {onkeydown}
      role="slider" tabindex="0" aria-label="Colour script" aria-valuemin={1} aria-valuemax={project.order.length} aria-valuenow={project.currentIndex + 1} aria-valuetext={says}
    >
      <canvas bind:this={canvas} class="pointer-events-none absolute inset-0 size-full"></canvas>
      {#each signs as { id, i, open } (id)}
        {#if cell > 5}
          <span class="pointer-events-none absolute top-[29px] -translate-x-1/2" style="left:{(i + 0.5) * cell - gap / 2}px"><Kink stet={!open} /></span>
        {:else if open}
          <span class="pointer-events-none absolute top-[28px] h-1 bg-red" style="left:{i * cell}px;width:{Math.max(1, cell)}px"></span>
        {/if}
      {/each}
      {#each cuts as cut (cut.i)}
        {#if cell > 5}
          <svg class="pointer-events-none absolute -top-[5px] -translate-x-1/2 {cut.open ? 'text-red' : 'text-soft'}" style="left:{cut.i * cell - gap / 2}px" width="11" height="38" viewBox="0 0 11 38" data-cut={cut.i}>
            <title>{cut.title}</title>
            <path d={cut.open ? 'M1 1 L5.5 6 L10 1 M5.5 6 L5.5 32 M1 37 L5.5 32 L10 37' : 'M5.5 3 v0.1 M5.5 35 v0.1'} fill="none" stroke="currentColor" stroke-width={cut.open ? 1.6 : 3} stroke-linecap="round" />
          </svg>
        {:else if cut.open}
          <span class="pointer-events-none absolute -top-1 h-1 bg-red" style="left:{cut.i * cell - 1}px;width:2px"></span>
        {/if}
      {/each}
      {#if project.currentIndex >= 0}
        <div
          class="pointer-events-none absolute -inset-y-1 border-2 border-pencil"
          style="left:{project.currentIndex * cell - 2}px;width:{Math.max(4, cell - gap + 4)}px"
        ></div>
      {/if}
    </div>
  {/if}
</section>
