<script lang="ts">
  /** A colour to be looked at or mended: a click opens the system's colour picker. */
  let { hex, size = 22, title = hex, onchange, onremove }: { hex: string; size?: number; title?: string; onchange?: (hex: string) => void; onremove?: () => void } = $props();
</script>

<span class="group relative inline-block align-middle">
  <label class="block border border-black/25 {onchange ? 'cursor-pointer' : ''}" style="width:{size}px;height:{size}px;background:{hex}" {title}>
    {#if onchange}
      <input type="color" class="absolute size-0 opacity-0" value={hex} aria-label="Colour {hex}" onchange={(e) => onchange(e.currentTarget.value)} />
    {/if}
  </label>
  {#if onremove}
    <button class="absolute -top-2 -right-2 hidden size-4 rounded-full border border-line bg-paper text-[10px] leading-none group-hover:block group-focus-within:block" onclick={onremove} aria-label="Remove {hex}">×</button>
  {/if}
</span>
