<script lang="ts">
  import { untrack } from 'svelte';
  import Button from 'flowbite-svelte/Button.svelte';
  import Crumb from '#lib/parts/Crumb.svelte';
  import Failure from '#lib/parts/Failure.svelte';
  import FilePick from '#lib/parts/FilePick.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { session } from '#lib/session.svelte.ts';
  import { RegisterImport } from './register.svelte.ts';
  import Said from './Said.svelte';

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
  const PICK = 'inline-flex min-h-9 items-center rounded-[5px] border-[1.5px] border-ink px-3.5 font-semibold hover:bg-tint';
  $effect(() => () => untrack(() => work.leave()));
</script>

<svelte:head><title>Lists in and out · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-4xl px-6 py-6">
  <Crumb steps={[['Equipment', '/equipment'], ['Lists in and out']]} />
  <h1 class="mb-3">Lists in and out</h1>
  <div class="flex flex-wrap items-end gap-3">
    <div class="w-56">
      <QuantityField
        label="List"
        value={name}
        choices={LISTS.map(([id, words]): [string, string] => [id, words])}
        onchange={(to) => ((name = to), work.leave())}
      />
    </div>
    <Button color="alternative" href="/api/v1/registers/{name}?kind=csv">Out as CSV</Button>
    <Button color="alternative" href="/api/v1/registers/{name}?kind=xlsx">Out as XLSX</Button>
    {#if session.may('registers.look_at_register')}<FilePick
        words="Look at a file …"
        accept=".csv,.txt,.tsv,.xlsx"
        onpick={(file) => void work.look(name, file)}
        class={PICK}
      />{/if}
  </div>
  <p class="soft mt-2 text-sm">
    Headings: {LISTS.find(([id]) => id === name)![2]}. What stands under the same tag or serial is changed, what is new is added,
    nothing is ever taken out.
  </p>
  <Failure text={work.failed} class="mt-3" />
  {#if work.job}<Said {work} />{/if}
</div>
