<script lang="ts">
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
    const { openByShot, stoodByShot } = project.findings.check;
    return project.order.flatMap(({ id }, i) => (openByShot.has(id) || stoodByShot.has(id) ? [{ id, i, open: openByShot.has(id) }] : []));
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
      {#if project.currentIndex >= 0}
        <div
          class="pointer-events-none absolute -inset-y-1 border-2 border-pencil"
          style="left:{project.currentIndex * cell - 2}px;width:{Math.max(4, cell - gap + 4)}px"
        ></div>
      {/if}
    </div>
  {/if}
</section>
