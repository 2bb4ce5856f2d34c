<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Sentence from '#lib/parts/Sentence.svelte';
  import Word from '#lib/parts/Word.svelte';
  import type { Tighten } from '#lib/plan.ts';
  import PassRow from './PassRow.svelte';
  import type { Work } from './work.svelte.ts';

  /**
   * The passes of a tighten stage, whatever they turn; a method can be taken as it is or taken over
   * and edited.
   */
  let { bench, work, stage, index }: { bench: Bench; work: Work; stage: Tighten; index: number } =
    $props();
  const methods = $derived<[string, string][]>([
    ...(catalogue.value?.methods ?? []).map((m): [string, string] => [m.id, m.name]),
    ...Object.keys(bench.doc.definitions?.methods ?? {}).map((id): [string, string] => [
      id,
      id.replaceAll('_', ' '),
    ]),
  ]);
  const listed = $derived((catalogue.value?.pass_kinds ?? []).flatMap((kind) => kind.listed));
  const computed = $derived(
    bench.stale ? undefined : bench.result?.stages.find((s) => s.id === stage.id),
  );
  const use = (method: string) => method && bench.act('use_method', { stage: stage.id, method });
</script>

{#if stage.method}
  {@const method = stage.method}
  <p>
    <Sentence
      key="bench.method"
      values={{
        method: methods.find(([id]) => id === method)?.[1] ?? method,
        passes: computed?.passes.map((p) => p.name).join(', ') ?? '',
      }}
    />
    <Word onclick={() => use(method)}>Use and edit</Word>
  </p>
{:else}
  <Table border={false}>
    <TableHead>
      <TableHeadCell>Pass</TableHeadCell><TableHeadCell>Set</TableHeadCell><TableHeadCell
        ><span class="sr-only">Remove</span></TableHeadCell
      >
    </TableHead>
    <TableBody>
      {#each stage.passes ?? [] as one, i (one.id)}
        <PassRow
          {bench}
          {work}
          {stage}
          {one}
          number={i + 1}
          at="stages/{index}/passes/{i}"
          named={computed?.passes.find((p) => p.id === one.id)?.name}
          outs={(computed?.passes ?? []).filter((p) => p.id === one.id && p.settings?.length)}
        />
      {/each}
    </TableBody>
  </Table>
  <p class="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
    {#each listed as words (words)}
      <Word onclick={() => bench.act('add_pass', { stage: stage.id, listed: words })}
        >Add {words}</Word
      >
    {/each}
  </p>
  <QuantityField
    label="Passes of a method"
    value=""
    choices={[['', 'replace by …'], ...methods]}
    error={bench.error(`stages/${index}/method`)}
    onchange={use}
  />
{/if}
