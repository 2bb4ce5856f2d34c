<script lang="ts">
  import { goto } from '$app/navigation';
  goto('/equipment', { replaceState: true });
</script>
