<script lang="ts">
  import { parts, type Key, type Values } from '../sentence';

  /** A sentence in which something stands out: bold, a code, a link. */
  let { key, values, href }: { key: Key; values: Values; href?: string } = $props();
</script>

{#each parts(key, values) as part, i (i)}{#if part.as === 'b'}<b>{part.text}</b
    >{:else if part.as === 'a'}<a {href}>{part.text}</a>{:else if part.as === 'code'}<code
      class="text-xs break-all">{part.text}</code
    >{:else}{part.text}{/if}{/each}
