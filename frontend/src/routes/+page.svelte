<script lang="ts">
  import { goto } from '$app/navigation';
  goto('/shift', { replaceState: true });
</script>
