<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Table from 'flowbite-svelte/Table.svelte';
  import TableBody from 'flowbite-svelte/TableBody.svelte';
  import TableBodyCell from 'flowbite-svelte/TableBodyCell.svelte';
  import TableBodyRow from 'flowbite-svelte/TableBodyRow.svelte';
  import TableHead from 'flowbite-svelte/TableHead.svelte';
  import TableHeadCell from 'flowbite-svelte/TableHeadCell.svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import { day, digits, kN } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Mark from '#lib/parts/Mark.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** What was tightened with a wrench since its last good check, and what its error did there. */
  let { id, used = $bindable([]) }: { id: string; used?: number[] } = $props();
  const asked = new Asked<Schemas['TouchedView']>();
  const made = new Asked<Schemas['Count']>();
  const view = $derived(asked.value);
  const load = async () => {
    await asked.ask(() => api.GET('/api/v1/tools/{id}/touched', { params: { path: { id } } }));
    used = [
      ...new Set(
        (asked.value?.lines ?? []).filter((line) => !line.since).map((line) => line.torque_Nm),
      ),
    ];
  };
  void load();
  const band = (figures: number[] | null | undefined) =>
    figures ? `${figures.map(kN).join(' – ')} kN` : 'not known';
  const window = (ends: (number | null)[]) =>
    ends[0] == null && ends[1] == null
      ? 'not known'
      : `${ends[0] == null ? '0' : kN(ends[0])} to ${ends[1] == null ? 'no limit' : `${kN(ends[1])} kN`}`;
  const needed = $derived(view?.needed ?? 0);
  async function recheck() {
    await made.ask(() =>
      api.POST('/api/v1/tools/{id}/touched/recheck', { params: { path: { id } } }),
    );
    await load();
  }
</script>

<section>
  <h2 class="border-b border-ink pb-1">Bolts tightened with it</h2>
  <Failure text={asked.failed || made.failed} />
  {#if view}
    <p class="my-2">
      {sentence('tool.touched', {
        pulls: view.pulls,
        joints: view.joints,
        since: view.since ? day(view.since) : 'none',
        error: view.error_words,
      })}
    </p>
    {#if needed && session.may('toolroom.recheck_touched')}
      <p class="mb-2">
        <Button disabled={made.busy} onclick={recheck}
          >{sentence('tool.recheck_joints', { count: needed })}</Button
        >
        <span class="soft ml-2 text-sm">they are then first on every Shift</span>
      </p>
    {/if}
    {#if view.lines.length}
      <Table border={false}>
        <TableHead>
          {#each ['', 'Joint', 'Bolts', 'Torque set', 'Clamp load as planned', 'With its error', 'Window', ''] as words, i (i)}<TableHeadCell
              >{words}</TableHeadCell
            >{/each}
        </TableHead>
        <TableBody>
          {#each view.lines as line (line.run_id + line.group)}
            <TableBodyRow>
              <TableBodyCell
                >{#if !line.since && line.verdict === 'outside'}<Mark
                    severity="stop"
                  />{:else if !line.since && line.verdict === 'edge'}<Mark
                    severity="caution"
                  />{/if}</TableBodyCell
              >
              <TableBodyCell
                ><a href="/joints/{line.joint_id}" class="font-semibold"
                  >{line.equipment_name} › {line.joint_name}</a
                >
                <span class="soft block text-sm"
                  ><a href="/runs/{line.run_id}/record">run {line.run}</a>, {sentence(
                    'tool.touched_run',
                    {
                      day: day(line.at),
                      since: line.since || 'none',
                    },
                  )}</span
                ></TableBodyCell
              >
              <TableBodyCell title={line.bolts.join(', ')}
                >{line.bolts.length} × {line.group_name}</TableBodyCell
              >
              <TableBodyCell
                >{digits(line.torque_Nm, 3)} N·m<span class="soft block text-sm"
                  >{digits(line.percent, 3)} %</span
                ></TableBodyCell
              >
              <TableBodyCell>{band(line.planned_N)}</TableBodyCell>
              <TableBodyCell>{band(line.was_N)}</TableBodyCell>
              <TableBodyCell>{window(line.window_N)}</TableBodyCell>
              <TableBodyCell
                >{sentence('tool.touched_result', {
                  result: line.words,
                  asked: line.asked ? 'yes' : 'no',
                })}</TableBodyCell
              >
            </TableBodyRow>
          {/each}
        </TableBody>
      </Table>
      {#if view.left_out}<p class="soft mt-2 text-sm">
          {sentence('tool.left_out', { count: view.left_out })}
        </p>{/if}
    {/if}
  {/if}
</section>
