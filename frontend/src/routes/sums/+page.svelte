<script lang="ts">
  import { goto } from '$app/navigation';
  goto('/sums/preload', { replaceState: true });
</script>
