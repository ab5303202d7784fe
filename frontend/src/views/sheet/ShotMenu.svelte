<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import { router } from '../../lib/router.svelte';
  import { useProject } from '../../lib/project-context';
  import type { Shot } from '../../api/client';
  import type { SheetState } from './sheet-state.svelte';

  let { sheet, shot, onreplace }: { sheet: SheetState; shot: Shot; onreplace: () => void } = $props();
  const project = useProject();
  const items = $derived<[string, string, () => void][]>([
    ['New shot below', 'N', () => sheet.shotCommand('insert', shot.id)],
    ['Split in two', 'X', () => sheet.shotCommand('split', shot.id)],
    ['Merge with the shot above', 'M', () => sheet.shotCommand('merge-up', shot.id)],
    ['Move up', 'Alt ↑', () => sheet.shotCommand('up', shot.id)],
    ['Move down', 'Alt ↓', () => sheet.shotCommand('down', shot.id)],
    ['Add pictures to it …', '', onreplace],
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
