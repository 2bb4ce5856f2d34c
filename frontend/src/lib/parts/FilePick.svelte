<script lang="ts">
  /** A word that asks for a file; the text of the file is given on. */
  interface Props {
    words: string;
    accept: string;
    onpick: (file: File) => void;
    class?: string;
    /** Opens the camera where there is one. */
    camera?: boolean;
  }
  let {
    words,
    accept,
    onpick,
    class: more = 'text-brine font-semibold hover:underline',
    camera = false,
  }: Props = $props();
  function pick(input: HTMLInputElement) {
    const file = input.files?.[0];
    input.value = '';
    if (file) onpick(file);
  }
</script>

<label class="cursor-pointer focus-within:outline-3 focus-within:outline-brine {more}"
  >{words}<input
    type="file"
    {accept}
    capture={camera ? 'environment' : undefined}
    class="sr-only"
    onchange={(ev) => pick(ev.currentTarget)}
  /></label
>
