<script lang="ts">
  import MapDesk from '$lib/map/MapDesk.svelte';
</script>

<MapDesk />
