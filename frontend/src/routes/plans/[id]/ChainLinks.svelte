<script lang="ts">
  import { catalogue } from '#lib/catalogue.svelte.ts';
  import type { Bench } from '#lib/bench.svelte.ts';
  import QuantityField from '#lib/parts/QuantityField/QuantityField.svelte';
  import Word from '#lib/parts/Word.svelte';
  import { fieldsOf, write, written, type Links } from '#lib/plan.ts';
  import Typed from './Typed.svelte';

  /** What stands between a wrench and the bolt, link by link; as many as there are. */
  let { bench, name, links }: { bench: Bench; name: string; links: Links } = $props();
  const at = $derived(`chains/${name}`);
  const drives = $derived((catalogue.value?.drives ?? []).map((d): [string, string] => [d, d]));
</script>

<p class="text-sm text-soft">
  {links.length > 1 ? 'Between wrench and bolt' : 'Between wrench and bolt: nothing'}
</p>
{#each links as link, i (i)}
  {#if typeof link === 'object'}
    {@const here = `${at}/${i}`}
    <div class="grid grid-cols-2 items-end gap-2">
      {#if 'adapter' in link}
        <Typed {bench} part={link} at={here} name="adapter" label="Offset adapter" />
        <Typed {bench} part={link} at={here} name="angle" label="Its angle" example="0 deg" />
      {:else}
        <Typed
          {bench}
          part={link}
          at={here}
          name="multiplier"
          label="Multiplier ratio"
          as="ratio"
          example="3:1"
        />
        <QuantityField
          label="Efficiency"
          value={written(fieldsOf(link).efficiency, 'shares')}
          example="87 90 93 %"
          error={bench.errorIn(`${here}/efficiency`)}
          onchange={(text) => write(link, 'efficiency', text.trim() ? text : '')}
        />
        <Typed {bench} part={link} at={here} name="arm" label="Reaction arm" example="not given" />
        <Typed
          {bench}
          part={link}
          at={here}
          name="rests_on"
          label="Rests on"
          example="Not specified"
        />
        <Typed
          {bench}
          part={link}
          at={here}
          name="drive"
          label="Output drive"
          choices={[['', 'not given'], ...drives]}
        />
      {/if}
    </div>
    <Word class="justify-self-start text-sm" onclick={() => links.splice(i, 1)}
      >Remove {'adapter' in link ? 'adapter' : 'multiplier'}</Word
    >
  {/if}
{/each}
<p class="flex gap-4 text-sm">
  {#if !links.some((link) => typeof link === 'object' && 'adapter' in link)}<Word
      onclick={() => bench.act('add_link', { chain: name, kind: 'adapter' })}
      >Add offset adapter</Word
    >{/if}
  <Word onclick={() => bench.act('add_link', { chain: name, kind: 'multiplier' })}
    >Add multiplier</Word
  >
</p>
{#if bench.error(at)}<p class="text-sm text-stop">{bench.error(at)}</p>{/if}
