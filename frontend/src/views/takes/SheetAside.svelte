<script lang="ts">
  import { api, ok, type Schemas, type Trial } from '../../api/client';
  import { useProject } from '../../lib/project-context';
  import { notices } from '../../lib/notices.svelte';
  import { counted } from '../../lib/words';
  import type { ContactSheetState } from './contact-sheet-state.svelte';
  import Proof from '../light-table/Proof.svelte';
  import FaultList from './FaultList.svelte';
  import Recurring from './Recurring.svelte';

  /** Beside the contact sheet: the chosen take, how it holds, its faults, and what it came from. */
  let { sheet, onopen, onremake, onrescue, ontrial }: { sheet: ContactSheetState; onopen: () => void; onremake: () => void; onrescue: () => void; ontrial: (trial: string | null) => void } = $props();
  const project = useProject();
  const take = $derived(sheet.chosen);
  const picture = $derived(take && project.pictures.get(take.picture_sha));
  const reading = $derived(take && sheet.readings.get(take.id));
  const VARIES: Record<string, string> = { style: 'Style', service: 'Service', phrase: 'One phrase' };
  const trialName = (t: Trial) => t.axes.map((a) => VARIES[a.varies] ?? `Weight of ${project.threads.get(a.about)?.name ?? 'a thread'}`).join(' and ');
  let steps = $state.raw<Schemas['LineageStep'][]>([]);

  /** The forms that the services at hand grow a picture to. */
  const forms = $derived([...new Set(project.serviceList.flatMap((s) => project.queue.serviceById.get(s.id)?.can?.models ?? []).filter((m) => m.kinds.includes('extension')).flatMap((m) => m.aspects))]);

  /** How long a clip the services at hand make at most; 0 where none makes any. */
  const clipMost = $derived(Math.max(0, ...project.serviceList.flatMap((s) => project.queue.serviceById.get(s.id)?.can?.models ?? []).filter((m) => m.kinds.includes('clip')).map((m) => m.clip_seconds_most ?? 8)));

  /** Ask for a clip that begins with this picture, as long as the shot. */
  async function film() {
    if (!take || !sheet.shot) return;
    const seconds = Math.max(1, Math.min(clipMost, sheet.shot.length_s));
    try {
      await ok(api.POST('/api/projects/{project_id}/takes/{take_id}/clip', { params: { path: { project_id: project.id, take_id: take.id } }, body: { seconds, last_take_id: null, service_id: null, model: '', quality: 'draft' } }));
      project.queue.told();
      notices.say(`A clip of ${seconds.toFixed(1)} s was asked for. It comes here.`);
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  async function grow(aspect: string) {
    if (!take || !aspect) return;
    const path = { project_id: project.id, take_id: take.id };
    const quality = take.made_from.made?.quality ?? 'draft';
    try {
      await ok(api.POST('/api/projects/{project_id}/takes/{take_id}/growth', { params: { path }, body: { aspect, count: 1, service_id: null, model: '', quality } }));
      project.queue.told();
      notices.say(`Asked for, grown to ${aspect}. It comes here.`);
    } catch (error) {
      notices.say((error as Error).message, 'trouble');
    }
  }

  $effect(() => {
    const id = take?.id;
    steps = [];
    if (id && take?.parent_id)
      void ok(api.GET('/api/projects/{project_id}/takes/{take_id}/lineage', { params: { path: { project_id: project.id, take_id: id } } }))
        .then((got) => { if (take?.id === id) steps = got as Schemas['LineageStep'][]; })
        .catch(() => undefined);
  });
</script>

{#if take}
  <section>
    <h2 class="mb-1 font-semibold">Take {sheet.numberOf.get(take.id)}</h2>
    <p class="label mb-2 break-words">{take.made_from.made ? `${take.made_from.made.service}, ${take.made_from.made.quality}, seed ${take.made_from.made.seed}, ${counted(take.made_from.made.credits, 'credit')}` : take.name}{picture ? ` · ${picture.width} × ${picture.height}` : ''}</p>
    <div class="flex gap-1">
      <button class="btn !px-2 {take.picked ? '' : 'btn-main'}" disabled={take.picked} onclick={() => sheet.pick()}>{take.picked ? 'Picked' : 'Pick'}</button>
      <button class="btn !px-2" aria-pressed={take.standing === 'kept'} onclick={() => sheet.stand('kept')}>{take.standing === 'kept' ? 'Kept' : 'Keep'}</button>
      <button class="btn !px-2" aria-pressed={take.standing === 'out'} onclick={() => sheet.stand('out')}>{take.standing === 'out' ? 'Back in' : 'Out'}</button>
      <button class="btn !px-2" onclick={onopen}>Large</button>
    </div>
  </section>
  {#if reading}
    <section>
      <h2 class="mb-1 font-semibold">How it holds</h2>
      {#each sheet.says(reading) as words, i (i)}<p class="py-0.5 text-red">{words}</p>{:else}<p class="text-soft">All that was measured holds.</p>{/each}
    </section>
  {/if}
  {#if (take.made_from.edit || take.made_from.grown) && take.parent_id && project.takes.has(take.parent_id)}
    {#key take.id}<Proof {take} ontaken={(made) => (sheet.chosenId = made)} />{/key}
    <p class="-mt-3"><button class="quiet -ml-1.5" onclick={() => project.table.lay([project.takes.get(take.parent_id!)!, take].flatMap((t) => project.table.ofTake(t)))}>Lay both on the light table</button></p>
  {/if}
  <FaultList {sheet} {take} />
  <section class="flex flex-wrap gap-1">
    {#if take.made_from.made}<button class="btn !px-2" onclick={onremake} title="Make takes that go on from this one (G)">Go on from it …</button>{/if}
    <button class="btn !px-2" onclick={() => project.table.lay(project.table.ofTake(take), 'area')} title="Draw an area, say what is to be there (E)" data-change-area>Change an area …</button>
    {#if forms.length}<select class="btn !px-2" value="" onchange={(e) => { void grow(e.currentTarget.value); e.currentTarget.value = ''; }} aria-label="Grow it beyond its edges" data-grow><option value="">Grow it to …</option>{#each forms as form (form)}<option>{form}</option>{/each}</select>{/if}
    {#if clipMost && !picture?.clip}<button class="btn !px-2" onclick={film} title="A clip that begins with this picture, as long as the shot" data-make-clip>Make a clip</button>{/if}
    <button class="btn !px-2" onclick={onrescue} title="Crops that leave its faults out (R)">Rescue …</button>
    <button class="quiet" onclick={() => sheet.remove()} title="Take it off the shot (Delete); its picture stays in the library">Remove</button>
  </section>
  {#if steps.length > 1}
    <section>
      <h2 class="mb-1 font-semibold">Where it comes from</h2>
      <ol>
        {#each steps as step (step.take_id)}
          <li><button class="block w-full border-l-2 py-1 pl-2 text-left hover:bg-wash {step.take_id === take.id ? 'border-pencil font-semibold' : 'border-line'}" onclick={() => (sheet.chosenId = step.take_id)}>take {step.number}{#if step.changes.length}<span class="block text-[12.5px] font-normal text-soft">{step.changes.join(', ')}</span>{/if}</button></li>
        {/each}
      </ol>
    </section>
  {/if}
{/if}
<section data-trials>
  <h2 class="mb-1 font-semibold">Trials</h2>
  {#each sheet.shot ? (project.trialsByShot.get(sheet.shot.id) ?? []) : [] as t (t.id)}
    <button class="block w-full border-l-2 border-line py-1 pl-2 text-left hover:bg-wash" onclick={() => ontrial(t.id)} data-trial-link>{trialName(t)}<span class="label block">{counted(t.axes.reduce((n, a) => n * a.choices.length, 1), 'setting')}, {counted(t.seeds.length, 'seed')} each</span></button>
  {:else}<p class="label mb-1">One shot under several settings, with the same seeds: which one holds better?</p>{/each}
  <button class="mt-1 text-pencil hover:underline" onclick={() => ontrial(null)} data-new-trial>Try settings …</button>
</section>
<Recurring />
