<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ok, whole, type Schemas, type Take } from '../../api/client';
  import { useProject } from '../../lib/project-context';

  /** Crops that rescue a take: shown on its picture, the least costly first; taken with one key. */
  let { take, number, onclose }: { take: Take; number: number; onclose: (child: string | null) => void } = $props();
  const project = useProject();
  const KEPT = 'juxtaform.print-mm';
  let offer = $state.raw<Schemas['RescueOffer'] | null>(null);
  let trouble = $state('');
  let at = $state(0);
  let print_mm = $state(Number(localStorage.getItem(KEPT)) || 240);
  let frameW = $state(600);
  let frameH = $state(400);
  const picture = $derived(project.pictures.get(take.picture_sha));
  const crops = $derived(offer?.crops ?? []);
  const chosen = $derived(crops[at]);
  const scale = $derived(picture ? Math.min(frameW / picture.width, frameH / picture.height) : 1);
  const path = $derived({ project_id: project.id, take_id: take.id });

  onMount(() => void load());

  async function load() {
    trouble = '';
    try {
      offer = (await ok(api.GET('/api/projects/{project_id}/takes/{take_id}/rescues', { params: { path, query: { print_mm } } }))) as Schemas['RescueOffer'];
      at = 0;
    } catch (error) {
      trouble = (error as Error).message;
    }
  }

  function resize(event: Event) {
    const value = Number((event.target as HTMLInputElement).value);
    if (!(value >= 10 && value <= 5000)) return;
    print_mm = value;
    localStorage.setItem(KEPT, String(value));
    void load();
  }

  export async function accept() {
    if (!chosen) return;
    const done = await project.send(() => api.POST('/api/projects/{project_id}/takes/{take_id}/crop', { params: { path }, body: { box: chosen.box } }));
    if (done) onclose((done.rows.take ?? []).find((t) => t.parent_id === take.id)?.id ?? null);
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.target instanceof HTMLInputElement) return;
    const n = Number(event.key);
    if (event.key === 'Escape') onclose(null);
    else if (event.key === 'Enter') void accept();
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') at = Math.min(crops.length - 1, Math.max(0, at + (event.key === 'ArrowDown' ? 1 : -1)));
    else if (n >= 1 && n <= crops.length) at = n - 1;
    else return;
    event.preventDefault();
    event.stopImmediatePropagation();
  }
</script>

<svelte:window onkeydowncapture={onkeydown} />

<div class="absolute inset-0 z-20 flex bg-paper" role="region" aria-label="Rescue take {number}" data-rescue>
  <div class="flex min-w-0 flex-1 flex-col p-4">
    <p class="mb-2 flex items-center gap-3"><button class="quiet" onclick={() => onclose(null)}>← All takes <span class="key">Esc</span></button><strong>Rescue take {number}</strong></p>
    <div class="well grid min-h-0 flex-1 place-items-center overflow-hidden" bind:clientWidth={frameW} bind:clientHeight={frameH}>
      {#if picture}
        <svg viewBox="0 0 {picture.width} {picture.height}" style="width:{picture.width * scale}px;height:{picture.height * scale}px" aria-hidden="true">
          <image href={whole(take.picture_sha)} width={picture.width} height={picture.height} />
          {#if chosen}
            <path d="M0 0H{picture.width}V{picture.height}H0Z M{chosen.box.x} {chosen.box.y}v{chosen.box.h}h{chosen.box.w}v{-chosen.box.h}Z" fill="#000" fill-opacity="0.55" />
            <rect x={chosen.box.x} y={chosen.box.y} width={chosen.box.w} height={chosen.box.h} fill="none" stroke="#8fd0f5" stroke-width={2 / scale} />
          {/if}
          {#each project.faultsByTake.get(take.id) ?? [] as f (f.id)}<ellipse cx={f.x + f.w / 2} cy={f.y + f.h / 2} rx={f.w / 2} ry={f.h / 2} fill="none" stroke="#ff8a7a" stroke-width={2.5 / scale} />{/each}
        </svg>
      {/if}
    </div>
  </div>
  <div class="flex w-[300px] shrink-0 flex-col gap-3 border-l border-line p-4">
    <label class="flex items-center gap-2"><span class="label flex-1">Width in print, mm</span><input class="field !w-20" type="number" min="10" max="5000" value={print_mm} onchange={resize} /></label>
    {#if trouble}<p class="border-l-4 border-red pl-3 text-red" role="alert">{trouble}</p>{/if}
    {#if offer?.why}<p>{offer.why}</p>{/if}
    <ol class="flex flex-col">
      {#each crops as c, i (i)}
        <li>
          <button class="grid w-full grid-cols-[24px_1fr] gap-x-2 border-l-[3px] py-2 pl-2 text-left hover:bg-wash {i === at ? 'border-pencil bg-wash' : 'border-transparent'}" onclick={() => (at = i)} ondblclick={accept} aria-pressed={i === at} data-crop={i + 1}>
            <span class="key self-start">{i + 1}</span>
            <span><strong>{Math.round(c.left * 100)} %</strong> of the picture{c.dpi ? `, ${Math.round(c.dpi)} dpi` : ''}{#if c.dpi && c.dpi < 300}<span class="text-red">, 300 wanted</span>{/if}<br /><span class="label">{Math.round(c.box.w)} × {Math.round(c.box.h)} px{c.closer > 0.15 ? `, becomes ${c.size}` : ', framing kept'}{c.cut.length ? `, cuts ${c.cut.join(', ')}` : ''}</span></span>
          </button>
        </li>
      {/each}
    </ol>
    {#if crops.length}<button class="btn btn-main" onclick={accept} data-take-crop>Take this crop <span class="ml-1 opacity-70">Enter</span></button><p class="label">The crop is a take of its own; this one stays.</p>{/if}
  </div>
</div>
