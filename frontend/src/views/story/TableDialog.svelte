<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { onMount } from 'svelte';
  import { api, ApiError, ok, sendFile, type Changed, type Schemas } from '../../api/client';
  import { notices } from '../../lib/notices.svelte';
  import { useProject } from '../../lib/project-context';
  import { copied } from '../../lib/without-tls';

  /** The shot list as a table: which columns, in which order; out as CSV, PDF or cells; in from a file or pasted cells. */
  let { open = $bindable(false) }: { open?: boolean } = $props();
  const project = useProject();
  let all = $state.raw<Schemas['ColumnOut'][]>([]);
  let trouble = $state('');
  let offer = $state('');
  /** What came in and was asked about: it comes in again when the offer is taken. */
  let asked = $state.raw<string | File | null>(null);
  const path = $derived({ project_id: project.id });
  const held = $derived(project.row?.table_columns ?? []);
  const shown = $derived(held.length ? held : all.map((c) => c.header));
  const ordered = $derived([...shown.filter((h) => all.some((c) => c.header === h)), ...all.map((c) => c.header).filter((h) => !shown.includes(h))]);
  const base = $derived(`/api/projects/${project.id}/table`);

  onMount(async () => (all = await ok(api.GET('/api/projects/{project_id}/table/columns', { params: { path } }))));

  const keep = (table_columns: string[]) => void project.editProject({ table_columns });

  function toggle(header: string) {
    keep(shown.includes(header) ? shown.filter((h) => h !== header) : ordered.filter((h) => h === header || shown.includes(h)));
  }

  function shift(header: string, by: -1 | 1) {
    const list = [...shown];
    const at = list.indexOf(header);
    if (at < 0 || at + by < 0 || at + by >= list.length) return;
    [list[at], list[at + by]] = [list[at + by]!, list[at]!];
    keep(list);
  }

  async function copy() {
    const cells = await (await fetch(`${base}.tsv`)).text();
    if (await copied(cells)) notices.say('The cells are on the clipboard: paste them into a spreadsheet.');
    else notices.say('The browser does not let go to the clipboard. Save the table as a file instead.', 'trouble');
  }

  function pasted(event: ClipboardEvent) {
    const cells = event.clipboardData?.getData('text/plain') ?? '';
    if (!cells.includes('\t') && !cells.includes(',')) return;
    event.preventDefault();
    void takeIn(cells);
  }

  function chosen(event: Event) {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    input.value = '';
    if (file) void takeIn(file);
  }

  async function takeIn(table: string | File, mend = false) {
    trouble = offer = '';
    try {
      await taken(
        typeof table === 'string'
          ? ((await ok(api.POST('/api/projects/{project_id}/table', { params: { path }, body: { cells: table, mend } }))) as Changed)
          : await sendFile<Changed>(`${base}/file?mend=${mend}`, table),
      );
    } catch (error) {
      trouble = (error as Error).message;
      offer = error instanceof ApiError ? (error.problem.offer ?? '') : '';
      asked = table;
    }
  }

  async function taken(changed: Changed) {
    await project.receive(changed);
    notices.say(changed.version !== changed.since ? `Done: ${changed.label}` : 'The table says what the plan says already.');
    open = false;
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content class="pop fixed top-1/2 left-1/2 flex max-h-[92vh] w-[720px] -translate-x-1/2 -translate-y-1/2 flex-col p-6" data-table>
      <Dialog.Title class="font-book text-[18px] font-semibold">The shot list as a table</Dialog.Title>
      <Dialog.Description class="label mb-4">Columns and their order are kept with the project. A table that comes back changes the shots by their Id; a row without one is a new shot.</Dialog.Description>
      <div class="grid min-h-0 flex-1 grid-cols-[300px_minmax(0,1fr)] gap-6">
        <ol class="min-h-0 overflow-y-auto border-y border-hair py-1" aria-label="Columns">
          {#each ordered as header (header)}
            {@const on = shown.includes(header)}
            <li class="group flex h-7 items-center gap-2 {on ? '' : 'text-soft'}" title={all.find((c) => c.header === header)?.meaning}>
              <label class="flex flex-1 items-center gap-2"><input type="checkbox" checked={on} onchange={() => toggle(header)} />{header}</label>
              {#if on}<span class="opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"><button class="quiet px-1" onclick={() => shift(header, -1)} aria-label="{header} up">↑</button><button class="quiet px-1" onclick={() => shift(header, 1)} aria-label="{header} down">↓</button></span>{/if}
            </li>
          {/each}
        </ol>
        <div class="flex flex-col gap-2">
          <h2 class="font-semibold">Out</h2>
          <div class="flex flex-wrap gap-2">
            <a class="btn" href="{base}.csv" download>CSV</a>
            <a class="btn" href="{base}.pdf" download>PDF, with pictures</a>
            <button class="btn" onclick={copy}>Copy the cells</button>
          </div>
          <h2 class="mt-4 font-semibold">In</h2>
          <label class="btn self-start">Choose a CSV file …<input type="file" accept=".csv,.tsv,.txt,text/csv" class="hidden" onchange={chosen} data-choose="table" /></label>
          <textarea class="field h-24 resize-none" placeholder="or paste cells from a spreadsheet here, with their header" onpaste={pasted} aria-label="Paste cells"></textarea>
          {#if trouble}
            <div class="overflow-y-auto border-l-4 border-red pl-3" data-table-trouble>
              <p class="text-red" role="alert">{trouble}<br /><span class="text-soft">Nothing was changed.</span></p>
              {#if offer && asked !== null}<button class="btn mt-2 text-left whitespace-normal" onclick={() => takeIn(asked!, true)} data-table-offer>{offer}</button>{/if}
            </div>
          {/if}
        </div>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
