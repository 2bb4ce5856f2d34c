<script lang="ts">
  import Button from 'flowbite-svelte/Button.svelte';
  import { page } from '$app/state';
  import { sentence } from '#lib/sentence.ts';
  import { session } from '#lib/session.svelte.ts';

  /**
   * Sign in again at the plant's sign-on, in place of a password: for a few minutes that proves who
   * is here.
   */
  const back = $derived(encodeURIComponent(page.url.pathname));
</script>

<Button
  color="alternative"
  class="min-h-[56px]"
  href="/api/v1/session/sign-on?fresh=1&to={back}"
  rel="external"
>
  {sentence('sign.again', { provider: session.signOn })}
</Button>
