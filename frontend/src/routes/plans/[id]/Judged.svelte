<script lang="ts">
  import { untrack } from 'svelte';
  import { api, type Schemas } from '#lib/api/client.ts';
  import { Asked } from '#lib/asked.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import { digits, kN } from '#lib/figures.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import Findings from '#lib/parts/Findings/Findings.svelte';
  import Fold from '#lib/parts/Fold.svelte';
  import WindowGauge from '#lib/parts/WindowGauge/WindowGauge.svelte';
  import WrenchCard from '#lib/parts/WrenchCard/WrenchCard.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';
  import KitList from './KitList.svelte';
  import type { Mending } from './mend.svelte.ts';
  import type { Tape } from './tape.svelte.ts';
  import type { Work } from './work.svelte.ts';

  /** The clamp load window, the setting, the findings, wishes from runs, the kit. */
  interface Props {
    bench: Bench;
    tape: Tape;
    work: Work;
    mending: Mending;
    group: Schemas['GroupOut'];
    result: Schemas['Result'];
  }
  let { bench, tape, work, mending, group, result }: Props = $props();
  const set = $derived(tape.set);
  const setting = $derived(set?.pass.settings?.[0]);
  const wishes = new Asked<Schemas['SuggestionList']>();
  void wishes.ask(() =>
    api.GET('/api/v1/plans/{id}/suggestions', {
      params: { path: { id: untrack(() => bench.id) } },
    }),
  );
  const waive = (finding: Schemas['FindingOut'], reason: string) =>
    void bench.act('waive', { finding: finding.code, where: finding.where, reason });
  const unwaive = (finding: Schemas['FindingOut']) =>
    void bench.act('unwaive', { finding: finding.code, where: finding.where });
  const close = (finding: Schemas['FindingOut']) =>
    void bench.act(finding.act ?? '', finding.sets ?? {});
  const open = (finding: Schemas['FindingOut']) => {
    const mended = bench.opens[result.findings.indexOf(finding)];
    if (mended) void bench.goTo(mended, finding.remedy);
  };
  const mine = $derived(session.may('planning.edit_draft'));
</script>

<div class="relative grid min-w-0 content-start gap-3 xl:overflow-y-auto xl:contain-layout xl:pr-1">
  {#if result.groups.length > 1}<p class="-mb-2 font-bold">{group.name}</p>{/if}
  {#if group.preload}<WindowGauge
      preload={group.preload}
      limits={group.limits}
      window={group.window}
      target={[
        group.target?.force_N
          ? `${kN(group.target.force_N)} kN`
          : group.target?.set_torque_Nm && `${digits(group.target.set_torque_Nm)} N·m`,
        !group.target?.force_N && group.friction.name,
      ]
        .filter(Boolean)
        .join(' ')}
      onfield={(limit) => {
        const field = bench.limitFields[`${group.id}/${limit.id}`];
        if (field) void bench.goTo(field, '');
      }}
      onopen={(name) => work.show(`${group.id}/${name}`, name === 'preload' ? 'Preload' : 'Limit')}
    />{/if}
  {#if set && setting}
    <WrenchCard
      {setting}
      title={set.pass.name}
      onopen={() =>
        work.show(
          `${set.stage}/${set.pass.id}/${set.pass.group}/setting/${setting.chain}`,
          `Setting of ${set.pass.name}`,
        )}
    />
  {/if}
  <Findings
    findings={result.findings}
    onwaive={mine ? waive : undefined}
    onunwaive={mine ? unwaive : undefined}
    onact={mine ? close : undefined}
    onopen={open}
    asking={bench.asking}
    oncurrent={(finding) => mending.key(finding) === mending.current}
  />
  <Failure text={wishes.failed} />
  {#if wishes.value?.items.length}
    <div class="sheet p-3 text-sm">
      <Fold title={sentence('bench.wishes', { count: wishes.value.items.length })}>
        {#each wishes.value.items as wish, i (i)}<p class="border-t py-1">
            run {wish.run}, {wish.step}: {wish.text} <span class="soft">{wish.person}</span>
          </p>{/each}
      </Fold>
    </div>
  {/if}
  <KitList kit={result.kit ?? []} minutes={result.minutes ?? 0} />
</div>
