<script lang="ts">
  import { notices } from '../lib/notices.svelte';
</script>

<div class="pointer-events-none fixed bottom-[54px] left-1/2 z-[80] flex -translate-x-1/2 flex-col items-center gap-2" aria-live="polite">
  {#each notices.all as notice (notice.id)}
    <div
      class="pop flex max-w-[640px] items-start gap-3 px-4 py-2 {notice.tone === 'trouble' ? 'pointer-events-auto border-l-4 !border-l-red' : ''}"
      data-notice={notice.tone}
    >
      <span>{notice.text}</span>
      {#if notice.tone === 'trouble'}
        <button class="quiet -my-0.5 whitespace-nowrap" onclick={() => notices.drop(notice.id)}>Put away</button>
      {/if}
    </div>
  {/each}
</div>
