<script lang="ts">
  import { Command, Dialog } from 'bits-ui';
  import { commands } from '../lib/commands.svelte';

  const MOST = 12;
  let query = $state('');
  const found = $derived(commands.found(query).slice(0, MOST));

  function run(command: (typeof found)[number]) {
    commands.open = false;
    query = '';
    setTimeout(() => command.run());
  }
</script>

<Dialog.Root bind:open={commands.open}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/20" />
    <Dialog.Content class="pop fixed top-[12vh] left-1/2 w-[520px] -translate-x-1/2 p-3" data-command-search>
      <Dialog.Title class="sr-only">Do something by its name</Dialog.Title>
      <Dialog.Description class="sr-only">Type part of a command, Enter does it.</Dialog.Description>
      <Command.Root shouldFilter={false} label="Commands" loop>
        <!-- svelte-ignore a11y_autofocus -->
        <Command.Input class="field h-9 text-[15px]" placeholder="What do you want to do?" aria-label="What do you want to do?" bind:value={query} autofocus />
        <Command.List class="mt-2 max-h-[52vh] overflow-y-auto" aria-label="Commands">
          <Command.Viewport>
          {#each found as command (command.group + command.name)}
            <Command.Item value="{command.group} {command.name}" onSelect={() => run(command)} class="flex cursor-pointer items-center gap-3 rounded-sm px-2 py-1.5 data-selected:bg-wash">
              <span class="flex-1">{command.name}</span><span class="label">{command.group}</span>{#if command.key}<span class="key">{command.key}</span>{/if}
            </Command.Item>
          {/each}
          {#if !found.length}<p class="px-2 py-3 text-soft">Nothing is called that. Try a shorter word.</p>{/if}
          </Command.Viewport>
        </Command.List>
      </Command.Root>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
