<script lang="ts">
  import { useProject } from '../lib/project-context';
  import Kink from './Kink.svelte';

  const project = useProject();
  let width = $state(1000);
  const gap = $derived(project.order.length > 120 ? 0 : 2);
  const cell = $derived(project.order.length ? width / project.order.length : width);

  function pick(event: PointerEvent) {
    if (!(event.buttons & 1)) return;
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const i = Math.floor(((event.clientX - box.left) / box.width) * project.order.length);
    const shot = project.order[Math.min(project.order.length - 1, Math.max(0, i))];
    if (shot) project.currentId = shot.id;
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
      {#each project.order as shot, i (shot.id)}
        {@const picture = project.pictureOf(shot.id)}
        {@const open = project.findings.check.openByShot.get(shot.id)}
        <div
          class="absolute inset-y-0 flex overflow-hidden {picture ? '' : 'border border-dashed border-pencil'}"
          style="left:{i * cell}px;width:{Math.max(1, cell - gap)}px"
          title="Shot {i + 1}: {shot.shows}"
        >
          {#if picture}
            {#each picture.palette as [hex, share], k (k)}
              <span style="background:{hex};flex:{share} 0 0"></span>
            {/each}
          {/if}
        </div>
        {#if cell > 5 && (open || project.findings.check.stoodByShot.has(shot.id))}
          <span class="absolute top-[29px] -translate-x-1/2" style="left:{(i + 0.5) * cell - gap / 2}px">
            <Kink stet={!open} />
          </span>
        {:else if open}
          <span class="absolute top-[28px] h-1 bg-red" style="left:{i * cell}px;width:{Math.max(1, cell)}px"></span>
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
