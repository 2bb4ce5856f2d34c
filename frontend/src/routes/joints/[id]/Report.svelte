<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import Input from 'flowbite-svelte/Input.svelte';
  import Label from 'flowbite-svelte/Label.svelte';
  import Modal from 'flowbite-svelte/Modal.svelte';
  import Textarea from 'flowbite-svelte/Textarea.svelte';
  import { api, problemText, type Problem, type Schemas } from '#lib/api/client.ts';
  import Failure from '#lib/parts/Failure.svelte';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import { sentence } from '#lib/sentence.ts';

  /**
   * Something said of a joint beside its runs: opened by others, parts replaced, not safe, accepted
   * as it is.
   */
  interface Props {
    id: string;
    act: 'opened' | 'replaced' | 'not-safe' | 'use-as-is';
    position: string;
    positions: Schemas['Named'][];
    /** The last run that put the joint together; replaced parts may be of that run. */
    fitted: number | null;
    onclose: () => void;
    onkept: () => void;
  }
  let { id, act, position, positions, fitted, onclose, onkept }: Props = $props();
  const TEXTS = {
    opened: {
      title: 'Report opened',
      words: 'What is known of it',
      after:
        'Its condition becomes unknown. It has to be tightened from the start of the procedure.',
      does: 'Report opened',
    },
    replaced: {
      title: 'Record replaced parts',
      words: 'Which parts are new',
      after: '',
      does: 'Record replaced parts',
    },
    'not-safe': {
      title: 'Report not safe',
      words: 'What is wrong',
      after:
        'Its condition becomes “do not use”, on every screen, until a run clears it or a supervisor accepts it.',
      does: 'Report not safe',
    },
    'use-as-is': {
      title: 'Accept with conditions',
      words: 'Reason',
      after:
        'Its condition becomes “limited use” until the day you enter, then “do not use” again. Your name is printed with it.',
      does: 'Accept with conditions',
    },
  };
  const said = $derived(TEXTS[act]);
  let open = $state(true);
  let words = $state('');
  let conditions = $state('');
  let until = $state('');
  let when = $state('outside');
  // svelte-ignore state_referenced_locally
  let at = $state(position);
  let problem = $state<Problem | null>(null);
  let busy = $state(false);
  const uid = $props.id();
  const wrong = (path: string) => problem?.errors?.find((e) => e.path === path)?.text ?? '';
  const other = $derived(
    problem && !problem.errors?.length ? problemText(problem) : wrong('position'),
  );

  async function keep(event: Event) {
    event.preventDefault();
    busy = true;
    const params = { path: { id } };
    const body = { words, position: at };
    const answer = await (
      act === 'opened'
        ? api.POST('/api/v1/joints/{id}/opened', { params, body })
        : act === 'replaced'
          ? api.POST('/api/v1/joints/{id}/replaced', {
              params,
              body: { ...body, in_last_run: when === 'run' },
            })
          : act === 'not-safe'
            ? api.POST('/api/v1/joints/{id}/not-safe', { params, body })
            : api.POST('/api/v1/joints/{id}/use-as-is', {
                params,
                body: { ...body, conditions, until },
              })
    ).catch(() => ({ error: {} }));
    busy = false;
    problem = (answer.error as Problem | undefined) ?? null;
    if (problem) return;
    onkept();
    onclose();
  }
</script>

<Modal bind:open title={said.title} size="md" {onclose}>
  <form class="grid gap-4" onsubmit={keep}>
    {#if positions.length > 1}
      <QuantityField
        label="Position"
        value={at}
        choices={[
          ['', 'The whole joint'],
          ...positions.map((p): [string, string] => [p.id, p.name]),
        ]}
        onchange={(to) => (at = to)}
      />
    {/if}
    <div class="grid gap-1">
      <Label for="{uid}-w">{said.words}</Label>
      <Textarea
        id="{uid}-w"
        class="w-full"
        rows={2}
        maxlength={400}
        bind:value={words}
        required={act !== 'opened'}
      />
      <Failure text={wrong('words')} />
    </div>
    {#if act === 'replaced' && fitted}
      <QuantityField
        label="Fitted"
        value={when}
        choices={[
          ['outside', 'Outside a run'],
          ['run', sentence('joint.in_run', { run: fitted })],
        ]}
        onchange={(to) => (when = to)}
      />
    {/if}
    {#if act === 'use-as-is'}
      <div class="grid gap-1">
        <Label for="{uid}-c">Conditions: speed, load, how often it is checked</Label>
        <Textarea
          id="{uid}-c"
          class="w-full"
          rows={2}
          maxlength={400}
          bind:value={conditions}
          required
        />
        <Failure text={wrong('conditions')} />
      </div>
      <div class="grid gap-1">
        <Label for="{uid}-u">Until</Label>
        <Input id="{uid}-u" type="date" bind:value={until} required />
        <Failure text={wrong('until')} />
      </div>
    {/if}
    <p class="soft">
      {act === 'replaced'
        ? when === 'run'
          ? 'Its condition stays as that run left it. Uses of the fasteners are counted from that run.'
          : TEXTS.opened.after
        : said.after}
    </p>
    <Failure text={other} />
    <p class="flex justify-end gap-3">
      <Button color="alternative" onclick={onclose}>Cancel</Button>
      <Button type="submit" disabled={busy || (act !== 'opened' && !words.trim())}
        >{said.does}</Button
      >
    </p>
  </form>
</Modal>
