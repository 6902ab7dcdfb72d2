<script lang="ts">
  import '../app.css';
  import { beforeNavigate } from '$app/navigation';
  import { page } from '$app/state';
  import { forgetKeys, keepKeys } from '$lib/client/early-keys';
  import { onMount } from 'svelte';
  let { children } = $props();

  const isPiece = (route: string | null | undefined) => route?.startsWith('/p/') ?? false;

  // From here on a page that was drawn by the server hears what is done on it; a piece once it is open.
  onMount(() => {
    document.documentElement.setAttribute('data-hears', '');
    if (!isPiece(page.route.id)) forgetKeys();
  });
  beforeNavigate(({ from, to }) => {
    if (isPiece(to?.route.id) && !isPiece(from?.route.id)) keepKeys();
    else if (!isPiece(to?.route.id)) forgetKeys();
  });
</script>

{@render children()}
