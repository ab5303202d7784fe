<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { commands } from '../lib/commands.svelte';

  let query = $state('');
  let at = $state(0);
  const found = $derived(commands.found(query).slice(0, 12));

  $effect(() => {
    void query;
    at = 0;
  });

  function run(i: number) {
    const command = found[i];
    commands.open = false;
    query = '';
    if (command) setTimeout(() => command.run());
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === 'ArrowDown') at = Math.min(found.length - 1, at + 1);
    else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
    else if (event.key === 'Enter') run(at);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<Dialog.Root bind:open={commands.open}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/20" />
    <Dialog.Content class="pop fixed top-[12vh] left-1/2 w-[520px] -translate-x-1/2 p-3" data-command-search>
      <Dialog.Title class="sr-only">Do something by its name</Dialog.Title>
      <Dialog.Description class="sr-only">Type part of a command, Enter does it.</Dialog.Description>
      <!-- svelte-ignore a11y_autofocus -->
      <input class="field h-9 text-[15px]" placeholder="What do you want to do?" aria-label="What do you want to do?" bind:value={query} {onkeydown} autofocus />
      <ul class="mt-2 max-h-[52vh] overflow-y-auto" role="listbox" aria-label="Commands">
        {#each found as command, i (command.group + command.name)}
          <!-- svelte-ignore a11y_click_events_have_key_events -->
          <li class="flex cursor-pointer items-center gap-3 rounded-sm px-2 py-1.5 {i === at ? 'bg-wash' : ''}" role="option" aria-selected={i === at} onclick={() => run(i)} onpointermove={() => (at = i)}>
            <span class="flex-1">{command.name}</span><span class="label">{command.group}</span>{#if command.key}<span class="key">{command.key}</span>{/if}
          </li>
        {:else}
          <li class="px-2 py-3 text-soft">Nothing is called that. Try a shorter word.</li>
        {/each}
      </ul>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
