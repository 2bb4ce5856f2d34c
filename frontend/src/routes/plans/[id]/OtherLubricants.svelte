<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { digits, kN, percent, small } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * Another lubricant from the store: what it does at the same torque, and what to set for the same
   * clamp.
   */
  let { bench, group }: { bench: Bench; group: string } = $props();
  const asked = new Asked<Schemas['OthersOut']>();
  let open = $state(false);

  $effect(() => {
    if (!open || bench.stale) return;
    const document = $state.snapshot(bench.doc);
    void asked.ask(() => api.POST('/api/v1/other-lubricants', { body: { document, group } }));
  });
  const take = (one: Schemas['AlternativeOut']) =>
    bench.act('take_lubricant', {
      group,
      lubricant: one.lubricant,
      torque: `${digits(one.same_clamp_Nm, 3)} N·m`,
      reason: sentence('bench.same_clamp', { lubricant: small(one.name) }),
    });
</script>

<Fold title="" more="Another lubricant in stock" ontoggle={(now) => (open = now)}>
  <Failure text={asked.failed} />
  {#if asked.value}
    <Table border={false}>
      <TableHead>
        <TableHeadCell>In stock</TableHeadCell><TableHeadCell>same torque gives</TableHeadCell
        ><TableHeadCell>same clamp: set</TableHeadCell><TableHeadCell
          ><span class="sr-only">Use</span></TableHeadCell
        >
      </TableHead>
      <TableBody>
        {#each asked.value.items as one (one.lubricant)}
          <TableBodyRow>
            <TableBodyCell
              >{one.name}{#if one.forbidden.length}<span class="soft block"
                  >{sentence('bench.not_on', { materials: one.forbidden.join(', ') })}</span
                >{/if}</TableBodyCell
            >
            <TableBodyCell
              >{kN(one.typical_N)} kN, {one.change >= 0 ? '+' : ''}{percent(
                one.change,
              )}</TableBodyCell
            >
            <TableBodyCell class="font-semibold">{digits(one.same_clamp_Nm, 3)} N·m</TableBodyCell>
            <TableBodyCell><Word onclick={() => take(one)}>Use lubricant</Word></TableBodyCell>
          </TableBodyRow>
        {:else}
          <TableBodyRow
            ><TableBodyCell class="soft" colspan={4}
              >Nothing is marked as in stock. Mark lubricants in Tables.</TableBodyCell
            ></TableBodyRow
          >
        {/each}
      </TableBody>
    </Table>
  {/if}
</Fold>
