<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { api, problemText, type Problem, type Schemas } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';

  /** An act on a tool that is done with a reason. */
  interface Props {
    detail: Schemas['ToolDetail'];
    what: 'block' | 'release' | 'allow' | 'error';
    onclose: () => void;
    ondone: () => void;
  }
  let { detail, what, onclose, ondone }: Props = $props();
  let reason = $state('');
  let hours = $state('8');
  let errors = $state<Record<string, string>>({});
  let failed = $state('');
  const path = $derived({ id: detail.tool.id });
  const SAYS = {
    block: ['What happened to it', 'Block it', 'It cannot be used in a run until it is unblocked.'],
    release: ['What was done with it', 'Let it go', 'It can be used again, by its last check.'],
    allow: [
      'Why it must be used all the same',
      'Allow for now',
      'Every run with it then carries a deviation that has to be accepted.',
    ],
    error: [
      'Why it is used all the same',
      'Use it with its error',
      'Its settings are corrected by the mean error found; what scatters around that is its accuracy. A preset driver widens the clamp band instead.',
    ],
  } as const;

  async function send(event: Event) {
    event.preventDefault();
    const answer = await {
      block: () =>
        api.PUT('/api/v1/tools/{id}/blocked', {
          params: { path },
          body: { blocked: true, reason },
        }),
      release: () =>
        api.PUT('/api/v1/tools/{id}/blocked', {
          params: { path },
          body: { blocked: false, reason },
        }),
      allow: () =>
        api.PUT('/api/v1/tools/{id}/allowed', {
          params: { path },
          body: { hours: Number(hours) || 0, reason },
        }),
      error: () =>
        api.POST('/api/v1/tools/{id}/used-with-error', { params: { path }, body: { reason } }),
    }
      [what]()
      .catch(() => ({ error: {} as Problem }));
    const problem = answer.error as Problem | undefined;
    if (!problem) return ondone();
    errors = Object.fromEntries((problem.errors ?? []).map((e) => [e.path, e.text]));
    failed = Object.keys(errors).length ? '' : problemText(problem);
  }
</script>

<form class="sheet mb-6 grid max-w-2xl gap-3 p-4" onsubmit={send} aria-label={SAYS[what][1]}>
  <QuantityField
    label={SAYS[what][0]}
    value={reason}
    error={errors.reason}
    onchange={(text) => (reason = text)}
  />
  {#if what === 'allow'}<QuantityField
      label="For how many hours"
      value={hours}
      error={errors.hours}
      onchange={(text) => (hours = text)}
    />{/if}
  <p class="soft text-sm">{SAYS[what][2]}</p>
  <Failure text={failed} />
  <div class="flex gap-2">
    <Button type="submit">{SAYS[what][1]}</Button>
    <Button color="alternative" onclick={onclose}>Cancel</Button>
  </div>
</form>
