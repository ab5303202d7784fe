<script lang="ts">
  import type { Shot } from '../api/client';
  import { useProject } from '../lib/project-context';

  let { shot }: { shot: Shot } = $props();
  const project = useProject();
  const planned = $derived(project.findings.needs.get(shot.id));
  const needs = $derived(planned?.words_s ?? 0);
  const told = $derived(planned ? `spoken ${planned.spoken_s} s, told ${planned.told_s} s, only seen ${Math.max(0, Math.round((shot.length_s - planned.spoken_s - planned.told_s) * 10) / 10)} s` : undefined);
  const short = $derived(needs > shot.length_s + 0.25);

  function change(event: Event) {
    const input = event.target as HTMLInputElement;
    const length_s = Number(input.value.replace(',', '.').replace(/[^0-9.]/g, ''));
    if (!(length_s > 0)) input.value = String(shot.length_s);
    else if (length_s !== shot.length_s)
      void project.editShot(shot, { length_s });
  }
</script>

<label title={short ? `It needs ${needs} s: ${told}` : told} class="{short ? 'text-red' : ''} flex items-baseline justify-end gap-1 whitespace-nowrap">
  <input
    class="plainselect min-w-4 text-right"
    inputmode="decimal"
    aria-label="Length in seconds"
    value={shot.length_s}
    onchange={change}
    onkeydown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
  /><span>s</span>
</label>
