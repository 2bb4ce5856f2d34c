<script lang="ts">
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import type { Schemas } from '#lib/api/client.ts';
  import FilePick from '#lib/parts/FilePick.svelte';
  import type { Run } from '#lib/run.svelte.ts';

  /**
   * What the plan asks to be recorded with an answer: batch, photo, initials of a second person.
   */
  interface Props {
    run: Run;
    step: Schemas['Instruction'];
    recorded: Record<string, string>;
  }
  let { run, step, recorded = $bindable() }: Props = $props();
  const uid = $props.id();
  const TYPED = {
    batch: 'Batch number, as printed on it',
    second: 'Initials of a second person who saw it',
  } as const;
  const typed = $derived(
    (step.asks ?? []).filter((what) => what !== 'photo') as (keyof typeof TYPED)[],
  );
</script>

<div class="grid gap-2 sm:grid-cols-2">
  {#each typed as what (what)}
    <div class="grid content-end gap-1">
      <Label for="{uid}-{what}">{TYPED[what]}</Label>
      <Input
        id="{uid}-{what}"
        class="min-h-[56px] text-lg"
        bind:value={recorded[what]}
        maxlength={60}
        autocomplete="off"
      />
    </div>
  {/each}
  {#if step.asks?.includes('photo')}
    <FilePick
      words="Take the photo that the plan asks for"
      accept="image/*"
      camera
      onpick={(file) => void run.photo(step.step, file, '')}
      class="flex min-h-[56px] items-center rounded-[6px] border-2 border-ink px-4 font-bold hover:bg-tint"
    />
  {/if}
</div>
