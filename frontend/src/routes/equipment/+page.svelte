<script lang="ts">
  import { goto } from '$app/navigation';
  import { api, must, type Schemas } from '#lib/api/client.ts';
  import RegisterForm, { JOINT_FIELDS, type Field } from '#lib/parts/RegisterForm/RegisterForm.svelte';
  import { session } from '#lib/session.svelte.ts';
  import JointLine from './JointLine.svelte';

  let items = $state<Schemas['EquipmentView'][] | null>(null);
  let next = $state<string | null>(null);
  let error = $state('');
  let sought = $state('');
  /** Which form is open: a new machine, a change of one, or a new joint of one. */
  let open = $state<{ what: 'machine' | 'change' | 'joint'; id: string } | null>(null);
  let waiting: ReturnType<typeof setTimeout> | undefined;
  let asked = 0;
  const may = $derived(session.has('planner', 'administrator'));

  const MACHINE: Field[] = [
    { name: 'tag', label: 'Tag', example: 'BP-3' },
    { name: 'name', label: 'Name', example: 'Brine pump 3' },
    { name: 'area', label: 'Where it stands', example: 'Brine field' },
  ];
  async function load(after = '') {
    const mine = ++asked;
    try {
      const page = must(await api.GET('/api/v1/equipment', { params: { query: { find: sought, after } } }));
      if (mine !== asked) return;
      items = after ? [...(items ?? []), ...page.items] : page.items;
      next = page.next ?? null;
      error = '';
    } catch (problem) {
      error = (problem as Error).message;
    }
  }
  function seek(text: string) {
    sought = text;
    clearTimeout(waiting);
    waiting = setTimeout(() => void load(), 200);
  }
  async function keepMachine(texts: Record<string, string>) {
    const body = { tag: texts.tag ?? '', name: texts.name ?? '', area: texts.area ?? '' };
    const { error: problem } =
      open!.what === 'machine'
        ? await api.POST('/api/v1/equipment', { body })
        : await api.PUT('/api/v1/equipment/{id}', { params: { path: { id: open!.id } }, body });
    if (problem) return problem;
    if (open!.what === 'machine') sought = body.tag.trim();
    open = null;
    await load();
  }
  async function keepJoint(texts: Record<string, string>) {
    const body = {
      equipment: open!.id,
      tag: texts.tag ?? '',
      name: texts.name ?? '',
      kind: texts.kind ?? '',
    };
    const { data, error: problem } = await api.POST('/api/v1/joints', { body });
    if (!data) return problem;
    await goto(`/joints/${data.id}`);
  }
  void load();
</script>

<svelte:head><title>Equipment · Orthotorq</title></svelte:head>
<div class="mx-auto max-w-5xl px-6 py-6">
  <div class="mb-5 flex flex-wrap items-end justify-between gap-4">
    <div>
      <h1>Equipment</h1>
      <p class="soft">Machines and their bolted joints</p>
    </div>
    <div class="flex flex-wrap items-end gap-3">
      <label class="flex items-center gap-2 text-sm"
        >Find <input class="field !w-56" value={sought} oninput={(e) => seek(e.currentTarget.value)} /></label
      >
      {#if may}<button class="act" onclick={() => (open = { what: 'machine', id: '' })}>New machine</button>{/if}
    </div>
  </div>
  {#if error}<p class="text-stop" role="alert">{error}</p>{/if}
  {#if open?.what === 'machine'}
    <RegisterForm
      title="A new machine"
      fields={MACHINE}
      values={{}}
      action="Keep it"
      send={keepMachine}
      onclose={() => (open = null)}
    />
  {/if}
  {#each items ?? [] as machine (machine.id)}
    <section class="mb-6">
      <div class="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-ink pb-1">
        <h2>{machine.name} <span class="soft ml-2 font-normal">{machine.tag} · {machine.area}</span></h2>
        {#if may}
          <span class="flex gap-4 text-sm">
            <button class="link" aria-label="Change {machine.name}" onclick={() => (open = { what: 'change', id: machine.id })}
              >change</button
            >
            <button
              class="link"
              aria-label="New joint of {machine.name}"
              onclick={() => (open = { what: 'joint', id: machine.id })}>new joint</button
            >
          </span>
        {/if}
      </div>
      {#if open?.id === machine.id && open.what === 'change'}
        <RegisterForm
          title="Change this machine"
          fields={MACHINE}
          values={{ tag: machine.tag, name: machine.name, area: machine.area }}
          action="Keep it"
          send={keepMachine}
          onclose={() => (open = null)}
        />
      {:else if open?.id === machine.id}
        <RegisterForm
          title="A new joint of {machine.name}"
          fields={JOINT_FIELDS}
          values={{ kind: 'gasketed_cover' }}
          action="Keep it and begin its plan"
          send={keepJoint}
          onclose={() => (open = null)}
        />
      {/if}
      <ul>
        {#each machine.joints as joint (joint.id)}<JointLine {joint} />{:else}<li class="soft py-3">
            No joint is registered here yet{may ? ': begin with “new joint”' : ''}.
          </li>{/each}
      </ul>
    </section>
  {:else}
    {#if items}<p class="soft">
        {sought ? 'Nothing matches.' : `No machines are registered yet${may ? ': begin with “New machine”' : ''}.`}
      </p>{/if}
  {/each}
  {#if next}<button class="act" onclick={() => load(next!)}>More machines</button>{/if}
</div>
