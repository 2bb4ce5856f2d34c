<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /** The people of the demo, each one press away. */
  let { onenter }: { onenter: (login: string) => void } = $props();
</script>

<section class="border-l pl-10">
  <h2>Demo: Vellmark Saltworks</h2>
  <p class="soft mb-4">{sentence('sign.demo', { password: session.demoPassword })}</p>
  <ul class="divide-y border-y">
    {#each session.demo as person (person.login)}
      <li>
        <Button
          color="alternative"
          class="w-full items-baseline justify-start gap-3 rounded-none border-0 bg-transparent px-0 py-3 font-normal hover:bg-tint"
          onclick={() => onenter(person.login)}
        >
          <span class="w-28 font-semibold">{person.name}</span>
          <span class="soft">{person.roles.join(', ')}</span>
          <span class="ml-auto pr-2 text-brine">{person.login}</span>
        </Button>
      </li>
    {/each}
  </ul>
</section>
