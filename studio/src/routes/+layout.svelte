<script lang="ts">
  import '../app.css';
  import { onMount } from 'svelte';
  let { children } = $props();

  // From here on a page that was drawn by the server hears what is done on it.
  onMount(() => document.documentElement.setAttribute('data-hears', ''));
</script>

{@render children()}
