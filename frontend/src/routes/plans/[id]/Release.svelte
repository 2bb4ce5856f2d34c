<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Checkbox from 'flowbite-svelte/Checkbox.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import Textarea from 'flowbite-svelte/Textarea.svelte';
  import type { Bench } from '#lib/bench.svelte.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import { sentence } from '#lib/sentence.ts';

  /** Release: the reason for the new revision, and every warning waived by name. */
  interface Props {
    bench: Bench;
    onclose: () => void;
    onreleased: (number: number) => void;
  }
  let { bench, onclose, onreleased }: Props = $props();
  let open = $state(true);
  let reason = $state('');
  let taken = $state<string[]>([]);
  const uid = $props.id();
  const first = $derived(!bench.view!.revision_number);
  const left = $derived(bench.toTakeOn.filter((caution) => !taken.includes(caution.id)).length);
  const tick = (id: string, on: boolean) =>
    (taken = on ? [...taken, id] : taken.filter((one) => one !== id));

  async function release(event: Event) {
    event.preventDefault();
    const made = await bench.release(reason, taken);
    if (!made) return;
    onreleased(made.number);
    onclose();
  }
</script>

<Modal
  bind:open
  title={sentence('bench.release_as', { number: (bench.view!.revision_number ?? 0) + 1 })}
  size="md"
  {onclose}
>
  <form class="grid gap-4" onsubmit={release}>
    <p>
      A revision is frozen: fitters work by it until the next one. The draft can be changed further.
    </p>
    {#if !first}
      <div class="grid gap-1">
        <Label for="{uid}-r">Reason for the new revision</Label>
        <Textarea
          id="{uid}-r"
          bind:value={reason}
          rows={2}
          maxlength={1000}
          class="w-full"
          required
          minlength={3}
        />
      </div>
    {/if}
    {#if bench.toTakeOn.length}
      <fieldset class="grid gap-2">
        <legend class="mb-1">Warnings that you waive, each by name</legend>
        {#each bench.toTakeOn as caution (caution.id + caution.text)}
          <Checkbox
            checked={taken.includes(caution.id)}
            onchange={(ev) => tick(caution.id, ev.currentTarget.checked)}>{caution.text}</Checkbox
          >
        {/each}
      </fieldset>
    {/if}
    <Failure text={bench.failed} />
    <p class="flex justify-end gap-3">
      <Button color="alternative" onclick={onclose}>Cancel</Button>
      <Button type="submit" disabled={left > 0 || (!first && reason.trim().length < 3)}
        >Release plan</Button
      >
    </p>
  </form>
</Modal>
