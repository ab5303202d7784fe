<script lang="ts">
  import { Dialog } from 'bits-ui';

  let { open = $bindable(false) }: { open?: boolean } = $props();
  const groups: [string, [string, string][]][] = [
    ['Everywhere', [
      ['J  K', 'next, previous shot'], ['Alt 1–7', 'go to a view'], ['C', 'check'], ['L', 'light table'],
      ['Ctrl Z', 'undo'], ['Ctrl Shift Z', 'redo'], ['?', 'this sheet'],
      ['Ctrl K', 'do something by its name'], ['H', 'history'],
    ]],
    ['Story', [
      ['Esc', 'from the text to the shots'], ['Ctrl ↵', 'in the text: split there'], ['B', 'propose shots'], ['↵', 'accept the proposal'], ['Shift ↵', 'accept all'],
      [',  .', 'its words end earlier, later'], ['<  >', 'its words begin earlier, later'], ['F', 'facts of the shot'], ['T', 'what moves to the motion note'],
      ['arrows  + −', 'on a frame of the move: move it, size it'],
    ]],
    ['Sheet', [
      ['arrows', 'move'], ['Space', 'assign or clear'], ['Shift ↑ ↓', 'choose a range'], ['Ctrl A', 'choose all'], ['Ctrl C  Ctrl V', 'copy a column’s range, or shots; lay it down'], ['Enter', 'hold, weight, costume, view; or edit the words'],
      ['N', 'new shot below'], ['X', 'split'], ['M', 'merge with the shot above'], ['Alt ↑ ↓', 'move the shot'], ['Delete', 'clear the bead, or delete the shot'],
    ]],
    ['Library', [['/', 'find'], ['arrows', 'move, with Shift choose'], ['S', 'pictures like this one'], ['R', 'taste round'], ['Del', 'bin, or out of it']]],
    ['Briefs', [[']  [', 'next finding, finding before'], ['↵', 'mend it'], ['S', 'stet, because …'], ['E  A', 'edit what it shows; add words'], ['D', 'compare with another brief'], ['Y', 'copy the brief']]],
    ['On a picture', [[',  .', 'choose a box'], ['arrows', 'move it, with Alt size it'], ['Insert', 'a new box']]],
    ['Contact sheet', [['arrows', 'move'], ['↵', 'pick'], ['+  −', 'keep, put out'], ['.', 'mark a fault; then its number'], ['1–0', 'while pointing: mark that fault there'], ['Space', 'one take large'], ['M', 'make takes'], ['G', 'go on from the take'], ['R', 'rescue it by a crop'], ['Delete', 'take it off the shot']]],
    ['Light table', [['1–5', 'side by side, wipe, blink, onion skin, difference'], ['arrows', 'move, with Shift the loupe'], ['+  −  0  9', 'larger, smaller, all, one to one'], ['[  ]', 'lay another picture on it'], ['{  }', 'another one below it'], ['A  Del', 'one more, one less'], ['X', 'change places'], ['P', 'peg on a head, a figure, the page'], [',  .', 'line, onion skin, strength'], ['Space', 'blink by hand']]],
    ['Takes', [['1–9', 'choose whom to mark'], ['drag', 'draw the box'], ['.  ,', 'next picture, picture before'], ['P', 'pick this take'], ['[  ]', 'take before, after'], ['Delete', 'remove the chosen mark']]],
    ['Who stands where', [['Enter', 'confirm all that is found; in Takes, here'], ['Y  N', 'yes or no to a dashed box'], ['.', 'next question'], ['↑ ↓', 'picture before, after'], ['drag', 'mend a box']]],
    ['Continuity', [['[  ]', 'finding before, after'], ['↑ ↓', 'thread before, after'], ['S', 'stet, because …'], ['T', 'retake'], ['Y  N  O', 'who is there: yes, not here, out of the shot'], ['G', 'go to the shot'], ['R', 'replace the picture'], ['V', 'review all']]],
  ];
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 max-h-[94vh] w-[1220px] max-w-[96vw] overflow-y-auto -translate-x-1/2 -translate-y-1/2 p-6">
      <Dialog.Title class="font-book text-[18px] font-semibold">Keys</Dialog.Title>
      <Dialog.Description class="label mb-4">Letters are commands only while you are not writing.</Dialog.Description>
      <div class="columns-4 gap-x-6">
        {#each groups as [name, keys] (name)}
          <section class="mb-3 break-inside-avoid">
            <h2 class="mb-1.5 font-semibold">{name}</h2>
            <dl class="grid grid-cols-[92px_1fr] gap-y-0.5">
              {#each keys as [key, what] (key)}
                <dt><span class="key whitespace-pre">{key}</span></dt>
                <dd>{what}</dd>
              {/each}
            </dl>
          </section>
        {/each}
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
