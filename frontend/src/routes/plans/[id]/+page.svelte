<script lang="ts">
  import { beforeNavigate } from '$app/navigation';
  import { page } from '$app/state';
  import { api, must, type Schemas } from '#lib/api/client.ts';
  import { Bench } from '#lib/bench.svelte.ts';
  import { clock } from '#lib/figures.ts';
  import Findings from '#lib/parts/Findings/Findings.svelte';
  import { help } from '#lib/parts/help.svelte.ts';
  import { visible } from '#lib/parts/JointFace/geometry.ts';
  import JointFace from '#lib/parts/JointFace/JointFace.svelte';
  import PassTape from '#lib/parts/PassTape/PassTape.svelte';
  import WindowGauge from '#lib/parts/WindowGauge/WindowGauge.svelte';
  import Working from '#lib/parts/Working/Working.svelte';
  import WrenchCard from '#lib/parts/WrenchCard/WrenchCard.svelte';
  import { press, type Key } from '#lib/keys.ts';
  import { session } from '#lib/session.svelte.ts';
  import { kept } from '#lib/steady.ts';
  import BackSection from './BackSection.svelte';
  import FigureSection from './FigureSection.svelte';
  import JointSection from './JointSection.svelte';
  import Section from './Section.svelte';
  import StageSection from './StageSection.svelte';
  import ToolsSection from './ToolsSection.svelte';
  import { sectionsOf } from './sections';
  import KitList from './KitList.svelte';
  import { planOf } from './file';
  import { newStage, STAGE_KINDS } from './stages';
  import { looksAt, stepsOf } from './steps';

  const bench = new Bench(page.params.id!);
  let error = $state('');
  let tables = $state<Schemas['TablesOut'] | null>(null);
  let open = $state('');
  let at = $state<number | null>(null);
  let figure = $state('');
  let figureTitle = $state('');
  let released = $state('');
  let own = $state<Schemas['OwnEntryView'][]>([]);
  let wishes = $state<Schemas['Suggestion'][]>([]);

  bench
    .open()
    .then(() => {
      carry();
      // what somebody has opened meanwhile stays open
      open ||= `stage-${bench.doc.stages.find((s: { kind: string }) => s.kind === 'tighten')?.id}`;
    })
    .catch((problem: Error) => (error = problem.message));
  api.GET('/api/v1/tables').then((answer) => (tables = must(answer)));
  api.GET('/api/v1/own-entries').then(({ data }) => (own = data?.items ?? []));
  api
    .GET('/api/v1/plans/{id}/suggestions', { params: { path: { id: page.params.id! } } })
    .then(({ data }) => (wishes = data?.items ?? []));

  /** A figure brought from the quick sums becomes the first group's torque, with where it came from as its reason. */
  function carry() {
    const torque = page.url.searchParams.get('torque');
    if (!torque) return;
    const group = bench.doc.groups[0];
    bench.doc.targets[group.id] = { kind: 'torque', torque, reason: page.url.searchParams.get('reason') ?? 'from a quick sum' };
    open = 'figure-0';
    history.replaceState(history.state, '', location.pathname);
  }
  $effect(() => bench.changed(JSON.stringify(bench.doc)));
  beforeNavigate(() => void (session.has('planner') && bench.doc && bench.save()));

  const result = $derived(bench.result);
  const sections = $derived.by(kept(() => (bench.doc ? sectionsOf(bench.doc, result, bench.errors) : [])));
  const steps = $derived.by(kept(() => (result ? stepsOf(result) : [])));
  const bands = $derived.by(
    kept(() =>
      steps.map((s, i) => ({
        ...s.band,
        done:
          at === null
            ? s.band.total
            : Math.max(0, Math.min(s.band.total, at - steps.slice(0, i).reduce((n, x) => n + x.band.total, 0) + 1)),
      })),
    ),
  );
  const looks = $derived.by(kept(() => (result ? looksAt(steps, at) : { looks: {}, next: [], pass: null })));
  const setting = $derived(looks.pass?.settings?.[0] ?? steps.findLast((s) => s.pass.settings?.length)?.pass.settings?.[0]);
  const settingPass = $derived(looks.pass?.settings?.length ? looks.pass : steps.findLast((s) => s.pass.settings?.length)?.pass);
  const group = $derived(result?.groups.find((g) => g.id === (looks.pass?.group || settingPass?.group)) ?? result?.groups[0]);
  const drawn = $derived.by(
    kept(() =>
      result
        ? visible(
            result.groups.flatMap((g) => g.places),
            group ? group.places.map((p) => p.id).slice(0, 1) : [],
          )
        : [],
    ),
  );
  const heads = $derived.by(kept(() => Object.fromEntries((result?.groups ?? []).map((g) => [g.id, g.thread.head_mm]))));
  const labels = $derived.by(
    kept(() => Object.fromEntries((result?.groups ?? []).flatMap((g) => g.places.map((p) => [p.id, p.label])))),
  );
  const stops = $derived(result?.findings.filter((f) => f.severity === 'stop' && !f.waived).length ?? 0);
  const cautions = $derived(result?.findings.filter((f) => f.severity === 'caution' && !f.waived).length ?? 0);
  const order = $derived((looks.pass ?? settingPass)?.order ?? []);

  function work(name: string, title: string) {
    figure = name;
    figureTitle = title;
  }
  /** A file takes the draft's place; what is wrong in it stands at its field, like anything typed. */
  async function bring(input: HTMLInputElement) {
    const found = planOf((await input.files?.[0]?.text()) ?? '', bench.doc.joint);
    input.value = '';
    if ('doc' in found) {
      bench.doc = found.doc;
      bench.failed = '';
    } else bench.failed = found.error;
  }
  /** A new stage comes behind the one that is open, else last. */
  function add(kind: string) {
    if (!kind) return;
    const made = newStage(kind, $state.snapshot(bench.doc));
    const behind = bench.doc.stages.findIndex((s: { id: string }) => open === `stage-${s.id}`);
    bench.doc.stages.splice(behind < 0 ? bench.doc.stages.length : behind + 1, 0, made);
    open = `stage-${made.id}`;
  }
  async function release() {
    const made = await bench.release();
    if (made) released = `Released as revision ${made.number}. It is frozen; the draft can go on.`;
  }
  const keys: Key[] = [
    { key: 'w', words: 'working of the preload', run: () => group && work(`${group.id}/preload`, 'Preload') },
    {
      key: 'ArrowRight',
      words: 'next step on the tape',
      run: () => (at = Math.min((at ?? -1) + 1, steps.reduce((n, s) => n + s.band.total, 0) - 1)),
    },
    { key: 'ArrowLeft', words: 'step before on the tape', run: () => (at = at === null || at === 0 ? null : at - 1) },
  ];
  $effect(() => {
    help.keys = keys;
    return () => void (help.keys = []);
  });
</script>

<svelte:head><title>{bench.doc?.title ?? 'Bench'} · Orthotorq</title></svelte:head>
<svelte:window onkeydown={(event) => press(event, keys)} />
{#if error}<p class="m-8 text-stop" role="alert">{error}</p>{/if}
{#if bench.doc && bench.view}
  <div class="grid md:h-[calc(100vh-3rem)] md:grid-cols-[370px_1fr] lg:grid-cols-[430px_1fr]">
    <div class="overflow-y-auto border-r bg-sheet px-4 py-4 lg:px-5">
      <div class="flex flex-wrap items-baseline justify-between gap-x-4 text-sm">
        <p class="soft crumb">
          <a href="/joints/{bench.view.joint_id}">{bench.view.equipment_name} › {bench.view.joint_name}</a>
        </p>
        {#if session.has('planner')}
          <p class="flex gap-4">
            <a class="link" href="/api/v1/plans/{bench.id}/file" title="Download the plan as a file">file</a>
            <label class="link cursor-pointer"
              >from file<input
                type="file"
                accept=".json,application/json"
                class="sr-only"
                onchange={(ev) => bring(ev.currentTarget)}
              /></label
            >
          </p>
        {/if}
      </div>
      <input
        class="-ml-1 w-full rounded bg-transparent px-1 text-[1.45rem] font-bold"
        aria-label="Title of the plan"
        bind:value={bench.doc.title}
        maxlength="120"
      />
      <div class="mt-1 mb-3 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
        <span class="soft">Draft {bench.version} · saved {clock(bench.saved)} · {stops} stops, {cautions} cautions</span>
        {#if session.has('planner')}
          <button class="act main ml-auto !min-h-8" onclick={release} disabled={bench.stale || stops > 0}>Release</button>
        {/if}
      </div>
      {#if bench.aside}
        <div class="mb-3 rounded border border-caution bg-caution-bg p-3" role="alert">
          <p>{bench.aside}</p>
          <button class="link" onclick={() => bench.open()}>Open the saved version</button>
        </div>
      {/if}
      {#if released}<p class="mb-3 rounded border border-brine bg-tint p-2" role="status">
          {released} <a href="/joints/{bench.view.joint_id}">Start a run there.</a>
        </p>{/if}
      {#if bench.failed}<p class="mb-3 text-stop" role="alert">{bench.failed}</p>{/if}
      {#each sections as section, i (section.key)}
        <Section
          number={i + 1}
          title={section.title}
          line={section.line}
          mark={section.mark}
          open={open === section.key}
          ontoggle={() => (open = open === section.key ? '' : section.key)}
        >
          {#if section.kind === 'joint'}
            <JointSection
              {bench}
              group={section.index}
              threads={tables?.threads ?? []}
              materials={tables?.materials ?? []}
              onmoved={(group) => (open = `joint-${group}`)}
            />
          {:else if section.kind === 'figure'}
            <FigureSection {bench} group={section.index} {tables} {own} onwork={work} />
          {:else if section.kind === 'tools'}
            <ToolsSection {bench} tool={section.tool} onmoved={(id) => (open = id && `tool-${id}`)} />
          {:else if section.kind === 'back'}
            <BackSection {bench} />
          {:else}
            <StageSection
              {bench}
              index={section.index}
              cautions={tables?.cautions ?? {}}
              methods={tables?.methods ?? []}
              lubricants={tables?.lubricants ?? []}
              onwork={work}
              onmoved={(id) => (open = id && `stage-${id}`)}
            />
          {/if}
        </Section>
      {/each}
      <label class="mt-3 flex items-center gap-2 text-sm text-soft"
        >New stage
        <select class="field !w-64" value="" onchange={(ev) => (add(ev.currentTarget.value), (ev.currentTarget.value = ''))}>
          <option value="">choose what is done …</option>
          {#each STAGE_KINDS as [kind, words] (kind)}<option value={kind}>{words}</option>{/each}
        </select></label
      >
    </div>

    {#if result && group}
      <div
        class="grid min-w-0 gap-x-7 gap-y-3 px-6 py-4 md:overflow-y-auto xl:grid-cols-[minmax(0,1fr)_380px] xl:grid-rows-[minmax(0,1fr)_auto] xl:overflow-hidden"
      >
        <div class="relative grid min-w-0 content-start gap-2">
          {#if bench.stale}
            <p class="rounded border border-stop bg-stop-bg px-3 py-1 text-sm" role="status">
              Not current: these figures are from before the last change{Object.keys(bench.errors).length
                ? '; mend the marked field'
                : ''}.
            </p>
          {/if}
          <div class="mx-auto aspect-square w-full max-w-[430px]">
            <JointFace
              places={drawn}
              acrossFlats={Math.max(...Object.values(heads))}
              {heads}
              looks={looks.looks}
              next={looks.next}
              middle=""
              below="{group.places.length} × {group.thread.designation}{group.layout === 'circle'
                ? ` · Ø ${group.span_mm} mm`
                : ''}"
              label="{group.name}, {group.places.length} bolts{looks.next.length
                ? `, now ${looks.next.map((p) => labels[p]).join(' and ')}`
                : ''}"
            />
          </div>
          <p class="soft text-sm leading-snug">
            Filled: share of the torque {at === null ? 'at the end' : 'after this step'}.
            {#if order.length > 1}{(looks.pass ?? settingPass)?.order_kind?.replace('_', ' ')} order
              <span class="font-semibold text-ink">{order.map((m) => m.map((p) => labels[p]).join('+')).join(' ')}</span>{/if}
          </p>
        </div>
        <div class="grid min-w-0 content-start gap-3 xl:overflow-y-auto xl:pr-1">
          {#if result.groups.length > 1}<p class="-mb-2 font-bold">{group.name}</p>{/if}
          {#if group.preload}<WindowGauge
              preload={group.preload}
              limits={group.limits}
              window={group.window}
              onopen={(name) => work(`${group.id}/${name}`, name === 'preload' ? 'Preload' : 'Limit')}
            />{/if}
          {#if setting && settingPass}
            <WrenchCard
              {setting}
              title={settingPass.name}
              onopen={() =>
                work(
                  `${steps.find((s) => s.pass === settingPass)!.stage}/${settingPass.id}/${settingPass.group}/setting/${setting.chain}`,
                  `Setting of ${settingPass.name}`,
                )}
            />
          {/if}
          <Findings
            findings={result.findings}
            onwaive={session.has('planner')
              ? (f, reason) => (bench.doc.waivers = [...(bench.doc.waivers ?? []), { finding: f.code, where: f.where, reason }])
              : undefined}
          />
          {#if wishes.length}
            <details class="sheet p-3 text-sm">
              <summary class="cursor-pointer font-semibold">Wishes from runs: {wishes.length}</summary>
              {#each wishes as wish, i (i)}<p class="border-t py-1">
                  run {wish.run}, {wish.step.split('/').slice(1, 3).join(' › ')}: {wish.text}
                  <span class="soft">{wish.person}</span>
                </p>{/each}
            </details>
          {/if}
          <KitList kit={result.kit ?? []} minutes={result.minutes ?? 0} />
        </div>
        <div class="min-w-0 xl:col-span-2">
          <p class="mb-1 text-sm">
            <b>Pass tape</b>
            <span class="soft">drag along it, or use the arrow keys: torque reached after each step</span>{#if at !== null}<button
                class="link ml-3"
                onclick={() => (at = null)}>to the end</button
              >{/if}
          </p>
          <PassTape {bands} {at} onmove={(step) => (at = step)} label="Pass tape, step" />
        </div>
      </div>
    {:else}
      <p class="soft p-8">
        {Object.keys(bench.errors).length
          ? 'Mend the marked fields on the left; the joint is drawn as soon as it can be computed.'
          : 'Computing …'}
      </p>
    {/if}
  </div>
  <Working bind:figure title={figureTitle} document={() => $state.snapshot(bench.doc)} />
{/if}
