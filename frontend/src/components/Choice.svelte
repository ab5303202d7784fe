<script lang="ts" generics="T extends string">
  import { RadioGroup } from 'bits-ui';

  /** One of a few things, as words beside each other; a count says how many wait there. */
  let { value, options, label, onchoose, small = false }: {
    value: T; options: readonly (readonly [T, string, number?])[]; label: string; onchoose: (value: T) => void; small?: boolean;
  } = $props();
</script>

<RadioGroup.Root class="flex flex-wrap items-center gap-1" {value} onValueChange={(v) => onchoose(v as T)} aria-label={label} orientation="horizontal">
  {#each options as [key, name, count] (key)}
    <RadioGroup.Item
      value={key}
      class="min-h-6 rounded-sm px-2 py-0.5 {small ? 'text-[12.5px]' : ''} {value === key ? 'bg-wash font-semibold text-pencil' : 'text-soft hover:text-ink'}"
    >{name}{#if count}<span class="ml-1 font-semibold text-red">{count}</span>{/if}</RadioGroup.Item>
  {/each}
</RadioGroup.Root>
