<script lang="ts">
  import BuildDesk from '$lib/build/BuildDesk.svelte';
</script>

<BuildDesk />
