<script lang="ts">
  import HandOverDesk from '$lib/hand/HandOverDesk.svelte';
</script>

<HandOverDesk />
