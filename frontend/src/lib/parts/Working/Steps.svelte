<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import type { Schemas } from '../../api/client';
  import { atDecimal } from '../../figures';

  /**
   * A derivation step by step: formula, numbers put in, result, source. Loaded with the typesetter
   * when it is opened.
   */
  let { steps }: { steps: Schemas['StepOut'][] } = $props();
  const formula = import('./Formula.svelte');
</script>

{#await formula then { default: Formula }}
  <ol class="grid gap-4">
    {#each steps as step, i (i)}
      <li class="border-t pt-3">
        <p class="soft text-sm">{step.result_words}</p>
        <div class="my-1 text-lg"><Formula tex={step.tex} display /></div>
        <Table border={false} class="w-auto">
          <TableBody>
            {@const values = atDecimal(step.inputs.map((input) => input.value))}
            {#each step.inputs as input, k (input.tex)}
              <TableBodyRow>
                <TableBodyCell><Formula tex={input.tex} /></TableBodyCell>
                <TableBodyCell>{input.words}</TableBodyCell>
                <TableBodyCell class="font-semibold">{values[k]}</TableBodyCell>
              </TableBodyRow>
            {/each}
          </TableBody>
        </Table>
        <p class="mt-2 font-bold"><Formula tex={step.result_tex} /> = {step.result}</p>
        <p class="soft text-sm">
          {step.source}{step.approximation ? ` · approximation: ${step.approximation}` : ''}
        </p>
      </li>
    {/each}
  </ol>
{/await}
