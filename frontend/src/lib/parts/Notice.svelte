<script lang="ts">
  import type { Snippet } from 'svelte';
  import Alert from 'flowbite-svelte/Alert.svelte';
  import Mark from './Mark.svelte';

  /** Something to be seen before going on: a caution, or how things stand. */
  interface Props {
    severity?: 'caution' | 'stop';
    /** `status` for what changes by itself, `alert` for what asks for somebody. */
    role?: 'status' | 'alert';
    class?: string;
    children: Snippet;
  }
  let { severity = 'caution', role = 'alert', class: more = '', children }: Props = $props();
</script>

<Alert
  {role}
  color={severity === 'stop' ? 'red' : 'yellow'}
  border
  params={{ duration: 0 }}
  class="{severity === 'stop' ? 'border-stop' : 'border-caution'} {more}"
>
  <div class="flex gap-2">
    <span class="mt-[3px]"><Mark {severity} /></span>
    <div class="min-w-0 flex-1">{@render children()}</div>
  </div>
</Alert>
