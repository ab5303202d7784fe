<script lang="ts">
  /** Let something stand: the reason is asked for, Escape leaves it. */
  let { stand, leave }: { stand: (reason: string) => void; leave: () => void } = $props();
  let reason = $state('');
</script>

<form class="mt-1.5 flex gap-2" onsubmit={(e) => { e.preventDefault(); stand(reason); }}>
  <!-- svelte-ignore a11y_autofocus -->
  <input class="field" name="reason" placeholder="Let it stand, because …" bind:value={reason} autofocus onkeydown={(e) => { e.stopPropagation(); if (e.key === 'Escape') leave(); }} /><button class="btn">Stet</button>
</form>
