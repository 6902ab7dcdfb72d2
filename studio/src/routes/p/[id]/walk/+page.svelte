<script lang="ts">
  import WalkDesk from '$lib/walk/WalkDesk.svelte';
</script>

<WalkDesk />
