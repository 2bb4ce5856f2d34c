<script lang="ts">
  import type { Schemas } from '#lib/api/client.ts';
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import RegisterForm, {
    jointFields,
    type Field,
  } from '#lib/parts/RegisterForm/RegisterForm.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { sentence } from '#lib/sentence.ts';
  import type { EquipmentList } from './equipment.svelte.ts';
  import JointLine from './JointLine.svelte';

  /** One machine with its joints. */
  interface Props {
    list: EquipmentList;
    machine: Schemas['EquipmentView'];
    /** Whether machines and joints may be registered. */
    may: boolean;
    fields: Field[];
  }
  let { list, machine, may, fields }: Props = $props();
  const open = $derived(list.form?.id === machine.id ? list.form.what : null);
  const kinds = $derived(catalogue.value?.joint_kinds ?? []);
  const close = () => (list.form = null);
</script>

<section class="mb-6">
  <div class="flex flex-wrap items-baseline justify-between gap-x-4 border-b border-ink pb-1">
    <h2>
      <a href="/machines/{machine.id}" class="!text-ink">{machine.name}</a>
      <span class="soft ml-2 font-normal">{machine.tag} · {machine.site}, {machine.area}</span>
    </h2>
    {#if may}
      <span class="flex gap-4 text-sm">
        <Word
          label="Change {machine.name}"
          onclick={() => (list.form = { what: 'change', id: machine.id })}>Change</Word
        >
        <Word
          label={sentence('machine.new_joint', { machine: machine.name })}
          onclick={() => (list.form = { what: 'joint', id: machine.id })}>New joint</Word
        >
      </span>
    {/if}
  </div>
  {#if open === 'change'}
    <RegisterForm
      title="Change this machine"
      {fields}
      values={{ tag: machine.tag, name: machine.name, site: machine.site, area: machine.area }}
      action="Save"
      send={list.keepMachine}
      onclose={close}
    />
  {:else if open === 'joint' && kinds.length}
    <RegisterForm
      title={sentence('machine.new_joint', { machine: machine.name })}
      fields={jointFields(kinds)}
      values={{ kind: kinds[0]!.value }}
      action="Save and create plan"
      send={list.keepJoint}
      onclose={close}
    />
  {/if}
  <ul>
    {#each machine.joints as joint (joint.id)}<JointLine {joint} />{:else}<li class="soft py-3">
        {may
          ? 'No joint is registered here yet. Press “New joint”.'
          : 'No joint is registered here yet.'}
      </li>{/each}
  </ul>
</section>
