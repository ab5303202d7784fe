<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Project } from '../../api/client';
  import { listOf } from '../../lib/words';
  import type { BriefsState } from './briefs-state.svelte';
  import { useProject } from '../../lib/project-context';

  /** What holds for every shot unless it says otherwise, and the services that briefs are fitted to. */
  let { briefs }: { briefs: BriefsState } = $props();
  const project = useProject();
  const row = $derived(project.row!);
  const styles = $derived(project.columns.filter((t) => t.kind === 'style'));
  type Own = Required<Project['profiles'][number]>;
  type Hold = Own['holds'][number];
  const own = $derived(row.profiles as Own[]);
  const HOLDS: Hold[] = ['figure', 'face', 'outfit', 'place', 'light', 'layout'];
  const fresh: Own = { name: 'My service', text_limit: 1000, picture_limit: 4, picture_side_px: 1024, holds: [], aspects: [], plate: false, template: '', weights: 'data', motion: 'sentences' };
  const PLACES = '{shows} {cast} {props} {place} {style} {framing} {palette} {without} {technical} {pictures}';
  const number = (v: string) => Math.max(0, Math.round(Number(v)) || 0);

  function add() {
    const names = new Set(briefs.profiles.map((p) => p.name));
    let name = fresh.name;
    for (let n = 2; names.has(name); n++) name = `${fresh.name} ${n}`;
    void project.editProject({ profiles: [...own, { ...fresh, name }] });
  }

  /** No hold at all stands for any. */
  function toggleHold(i: number, hold: Hold) {
    const held = own[i]!.holds.length ? own[i]!.holds : HOLDS;
    const holds = HOLDS.filter((h) => (h === hold ? !held.includes(h) : held.includes(h)));
    setProfile(i, { holds: holds.length === HOLDS.length ? [] : holds });
  }

  /** A template with a place that nobody knows is told at the field, and not kept. */
  function setTemplate(i: number, field: HTMLTextAreaElement) {
    const strange = [...field.value.matchAll(/\{([^{}]*)\}/g)].map((m) => m[1]!).find((w) => !PLACES.includes(`{${w}}`));
    field.setCustomValidity(strange === undefined ? '' : `{${strange}} is not known. A template can have ${PLACES}.`);
    if (field.reportValidity()) setProfile(i, { template: field.value.trim() });
  }

  function setProfile(i: number, values: Partial<Own>) {
    const profiles = own.map((p, k) => (k === i ? { ...p, ...values } : p));
    void project.editProject({ profiles, ...(row.profile === own[i]!.name && values.name ? { profile: values.name } : {}) });
  }
</script>

<Popover.Root>
  <Popover.Trigger class="quiet">Defaults …</Popover.Trigger>
  <Popover.Portal>
    <Popover.Content role="dialog" aria-label="Defaults" class="pop max-h-[80vh] w-[460px] overflow-y-auto p-4" side="bottom" align="end" sideOffset={6}>
      <h2 class="mb-2 font-semibold">For every shot</h2>
      <div class="grid grid-cols-[84px_1fr] items-center gap-x-3 gap-y-2">
        <label for="d-aspect" class="label">Form</label>
        <input id="d-aspect" class="field !w-28" value={row.aspect} placeholder="3:2" pattern="\d+(\.\d+)?:\d+(\.\d+)?" onchange={(e) => e.currentTarget.checkValidity() && project.editProject({ aspect: e.currentTarget.value.trim() })} />
        <label for="d-print" class="label">In print</label>
        <span class="flex items-center gap-2"><input id="d-print" class="field !w-28" type="number" min="10" max="5000" step="1" value={row.print_mm ?? ''} placeholder="none" onchange={(e) => e.currentTarget.checkValidity() && project.editProject({ print_mm: e.currentTarget.valueAsNumber || null })} /> <span class="text-soft">mm, the longer side</span></span>
        <label for="d-style" class="label">Style</label>
        <select id="d-style" class="field" value={row.style_id ?? ''} onchange={(e) => project.editProject({ style_id: e.currentTarget.value || null })}>
          <option value="">none but what a shot has</option>{#each styles as s (s.id)}<option value={s.id}>{s.name}</option>{/each}
        </select>
        <label for="d-donts" class="label">Don’ts</label>
        <input id="d-donts" class="field" value={row.donts.join(', ')} placeholder="lettering, frames, extra people" onchange={(e) => project.editProject({ donts: listOf(e.currentTarget.value) })} />
        <label for="d-seed" class="label">Seed</label>
        <div class="flex gap-2">
          <select id="d-seed" class="field" value={row.seed_rule} onchange={(e) => project.editProject({ seed_rule: e.currentTarget.value as Project['seed_rule'] })}>
            <option value="free">left to the service</option><option value="one">one for all shots</option><option value="per shot">one more for each shot</option>
          </select>
          {#if row.seed_rule !== 'free'}<input class="field !w-24" type="number" min="0" value={row.seed ?? (row.seed_rule === 'one' ? 1 : 0)} aria-label="Seed" onchange={(e) => project.editProject({ seed: number(e.currentTarget.value) })} />{/if}
        </div>
      </div>
      <h2 class="mt-4 mb-1 flex items-baseline justify-between font-semibold">Services of your own<button class="quiet" onclick={add}>+ service</button></h2>
      {#each own as p, i (i)}
        <div class="mb-2 grid grid-cols-[1fr_1fr] gap-x-3 gap-y-1.5 border-t border-hair pt-2">
          <input class="field col-span-2 font-semibold" value={p.name} aria-label="Name of the service" onchange={(e) => e.currentTarget.value.trim() && setProfile(i, { name: e.currentTarget.value.trim() })} />
          <label class="label">Characters of text<input class="field" type="number" min="0" value={p.text_limit} onchange={(e) => setProfile(i, { text_limit: number(e.currentTarget.value) })} /></label>
          <label class="label">Pictures (0: any)<input class="field" type="number" min="-1" value={p.picture_limit} onchange={(e) => setProfile(i, { picture_limit: Math.max(-1, Math.round(Number(e.currentTarget.value)) || 0) })} /></label>
          <label class="label">Longest side, px<input class="field" type="number" min="0" value={p.picture_side_px} onchange={(e) => setProfile(i, { picture_side_px: number(e.currentTarget.value) })} /></label>
          <label class="label">Forms<input class="field" value={p.aspects.join(', ')} placeholder="any" onchange={(e) => setProfile(i, { aspects: listOf(e.currentTarget.value) })} /></label>
          <fieldset class="col-span-2 flex flex-wrap items-center gap-x-3 gap-y-1"><legend class="label float-left mr-1">Holds</legend>
            {#each HOLDS as hold (hold)}<label class="flex items-center gap-1"><input type="checkbox" checked={!p.holds.length || p.holds.includes(hold)} disabled={p.holds.length === 1 && p.holds[0] === hold} onchange={() => toggleHold(i, hold)} />{hold}</label>{/each}
          </fieldset>
          <label class="label">How strongly it holds
            <select class="field" value={p.weights} onchange={(e) => setProfile(i, { weights: e.currentTarget.value as Own['weights'] })}><option value="data">beside the words, as data</option><option value="words">in words</option><option value="numbers">as a number in the words</option></select>
          </label>
          <label class="label">Motion goes
            <select class="field" value={p.motion} onchange={(e) => setProfile(i, { motion: e.currentTarget.value as Own['motion'] })}><option value="sentences">as sentences</option><option value="fields">as fields</option></select>
          </label>
          <label class="label col-span-2">Template of the words (empty: the usual order)
            <textarea class="field font-mono text-[12.5px]" rows={p.template ? Math.min(8, p.template.split('\n').length + 1) : 1} value={p.template} placeholder={PLACES} onchange={(e) => setTemplate(i, e.currentTarget)} data-template></textarea>
          </label>
          <label class="flex items-center gap-2"><input type="checkbox" checked={p.plate} onchange={(e) => setProfile(i, { plate: e.currentTarget.checked })} />all views on one plate</label>
          <button class="quiet justify-self-end" onclick={() => project.editProject({ profiles: own.filter((_, k) => k !== i) })}>Delete</button>
        </div>
      {:else}<p class="label">None yet: the ones in the list suit most.</p>{/each}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
