<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { router } from '../../lib/router.svelte';
  import { useProject } from '../../lib/project-context';
  import type { Shot } from '../../api/client';
  import type { SheetState } from './sheet-state.svelte';

  let { sheet, shot, onreplace, onmake }: { sheet: SheetState; shot: Shot; onreplace: () => void; onmake?: (shots: string[]) => void } = $props();
  const project = useProject();
  /** The chosen shots where this one is among them, else this one. */
  const making = $derived.by(() => {
    const chosen = sheet.shotIds(sheet.range);
    return chosen.includes(shot.id) && chosen.length > 1 ? chosen : [shot.id];
  });
  const items = $derived<[string, string, () => void][]>([
    ['New shot below', 'N', () => sheet.shotCommand('insert', shot.id)],
    ['Split in two', 'X', () => sheet.shotCommand('split', shot.id)],
    ['Merge with the shot above', 'M', () => sheet.shotCommand('merge-up', shot.id)],
    ['Move up', 'Alt ↑', () => sheet.shotCommand('up', shot.id)],
    ['Move down', 'Alt ↓', () => sheet.shotCommand('down', shot.id)],
    ['Add pictures to it …', '', onreplace],
    ...(onmake ? [[making.length > 1 ? `Make takes of these ${making.length} …` : 'Make takes …', '', () => onmake(making)] as [string, string, () => void]] : []),
    ['Takes and marks', 'Alt 6', () => { project.currentId = shot.id; router.go(project.id, 'takes'); }],
    ['Delete', 'Del', () => { project.currentId = shot.id; sheet.from = null; void sheet.shotCommand('delete', shot.id); }],
  ]);
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class="quiet px-1.5 leading-none" aria-label="What to do with this shot">⋯</DropdownMenu.Trigger>
  <DropdownMenu.Portal>
    <DropdownMenu.Content class="pop w-[240px] py-1" align="start" sideOffset={4}>
      {#each items as [name, key, act] (name)}
        <DropdownMenu.Item class="flex cursor-pointer justify-between px-3 py-1.5 outline-none data-highlighted:bg-wash" onSelect={act}>
          {name}{#if key}<span class="key">{key}</span>{/if}
        </DropdownMenu.Item>
      {/each}
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
