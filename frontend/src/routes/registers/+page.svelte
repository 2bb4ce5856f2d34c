<script lang="ts">
  import { untrack } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import FilePick from '#lib/parts/FilePick.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import { RegisterImport } from './register.svelte.ts';
  import Said from './Said.svelte';
  import PageHead from '#lib/parts/PageHead.svelte';

  /** Registers as files: out as CSV or XLSX; in only after what would change was looked at. */
  const work = new RegisterImport();
  let name = $state('machines');
  const LISTS: [string, string, string][] = [
    ['machines', 'Machines', 'tag, name, area; as wanted: site'],
    ['joints', 'Joints', 'machine, tag, name, kind'],
    [
      'tools',
      'Wrenches',
      'serial, kind, low, high; as wanted: name, increment, mark, length, drive, held_to, place, owner, note …',
    ],
    ['readings', 'Readings of meters', 'machine, unit, value, at; as wanted: how, before'],
  ];
  const PICK =
    'inline-flex min-h-9 items-center rounded-[5px] border-[1.5px] border-ink px-3.5 font-semibold hover:bg-tint';
  $effect(() => () => untrack(() => work.leave()));
</script>

<svelte:head><title>Import and export · Orthotorq</title></svelte:head>
<PageHead where={[['Equipment', '/equipment'], ['Import and export']]} title="Import and export" />
<div class="page">
  <div class="flex flex-wrap items-end gap-3">
    <div class="w-56">
      <QuantityField
        label="List"
        value={name}
        choices={LISTS.map(([id, words]): [string, string] => [id, words])}
        onchange={(to) => ((name = to), work.leave())}
      />
    </div>
    <Button color="alternative" href="/api/v1/registers/{name}?kind=csv">Export CSV</Button>
    <Button color="alternative" href="/api/v1/registers/{name}?kind=xlsx">Export XLSX</Button>
    {#if session.may('registers.look_at_register')}<FilePick
        words="Choose file …"
        accept=".csv,.txt,.tsv,.xlsx"
        onpick={(file) => void work.look(name, file)}
        class={PICK}
      />{/if}
  </div>
  <p class="soft mt-2 text-sm">
    {sentence('lists.headings', { headings: LISTS.find(([id]) => id === name)![2] })}
  </p>
  <Failure text={work.failed} class="mt-3" />
  {#if work.job}<Said {work} />{/if}
</div>
