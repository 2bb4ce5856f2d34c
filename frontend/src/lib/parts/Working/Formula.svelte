<script lang="ts">
  import 'katex/dist/katex.min.css';
  import katex from 'katex';
  import type { Attachment } from 'svelte/attachments';

  /** One formula, typeset in place (no inline styles in strings, so the content policy holds). */
  let { tex, display = false }: { tex: string; display?: boolean } = $props();
  const typeset: Attachment<HTMLElement> = (element) =>
    katex.render(tex, element, { displayMode: display, throwOnError: false });
</script>

<span {@attach typeset}></span>
