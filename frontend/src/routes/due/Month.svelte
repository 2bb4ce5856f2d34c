<script lang="ts">
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import { sentence } from '#lib/sentence.ts';
  import { weeksOf } from './month.ts';

  /** One month: what falls on each day, and the days between which a forecast lies. */
  let { month, dues }: { month: string; dues: Schemas['DueView'][] } = $props();
  const title = $derived(
    new Date(`${month}-15T12:00:00`).toLocaleDateString([], { month: 'long', year: 'numeric' }),
  );
  /** From a Monday on. */
  const WEEKDAYS = Array.from({ length: 7 }, (_, i) =>
    new Date(2024, 0, 1 + i).toLocaleDateString([], { weekday: 'short' }),
  );
  const of = (day: string) => dues.filter((due) => due.day === day);
  const within = (day: string) =>
    dues.filter(
      (due) => due.low && due.high && due.low <= day && day <= due.high && due.day !== day,
    );
  const today = new Date().toISOString().slice(0, 10);
</script>

<h2 class="mb-1">{title}</h2>
<Table border={false} class="table-fixed">
  <TableHead>
    {#each WEEKDAYS as words (words)}<TableHeadCell>{words}</TableHeadCell>{/each}
  </TableHead>
  <TableBody>
    {#each weeksOf(month) as week, i (i)}
      <TableBodyRow>
        {#each week as day, j (j)}
          <TableBodyCell
            class="h-16 border border-hairline px-1.5 py-1 {day === today ? 'bg-tint' : ''}"
          >
            {#if day}
              <span class="text-sm {day === today ? 'font-bold' : 'text-soft'}"
                >{Number(day.slice(8))}</span
              >
              {#each of(day) as due (due.joint_id + due.rule)}
                <a
                  href="/joints/{due.joint_id}"
                  class="block min-h-[25px] truncate pt-0.5 text-sm leading-tight {due.state ===
                  'overdue'
                    ? 'text-stop'
                    : ''}"
                  title="{due.equipment_name} › {due.joint_name}: {due.why}"
                  >{due.equipment_tag} {due.joint_name}</a
                >
              {/each}
              {#each within(day) as due (due.joint_id + due.rule)}
                <span
                  class="mt-0.5 block h-[3px] bg-load"
                  title={sentence('due.may_fall', {
                    tag: due.equipment_tag,
                    joint: due.joint_name,
                  })}
                ></span>
              {/each}
            {/if}
          </TableBodyCell>
        {/each}
      </TableBodyRow>
    {/each}
  </TableBody>
</Table>
<p class="soft mt-1 text-sm">
  A bar marks the days between which a forecast by meter may fall due.
</p>
