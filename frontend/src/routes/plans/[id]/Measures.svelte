<script lang="ts">
  /** How evenly an order draws a joint together: the two measures by which orders are compared. */
  interface Props {
    /** How far the middle of what is tight strays, in bolts. */
    stray: number;
    /** What is untouched in one piece when half of the bolts are tight, in pitches. */
    gap: number;
  }
  let { stray, gap }: Props = $props();
</script>

<p class="text-sm">
  Strays to one side by at most <b>{stray.toFixed(2)} bolts</b>; when half are tight,
  <b>{gap.toFixed(gap % 1 ? 1 : 0)} pitches</b> are untouched in one piece.
</p>
