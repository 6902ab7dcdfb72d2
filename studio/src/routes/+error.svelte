<script lang="ts">
  import { page } from '$app/state';
</script>

<main class="grid h-screen place-items-center linen-ground">
  <div class="max-w-md text-center">
    <h1 class="mb-2 text-2xl">{page.status === 404 ? 'Nothing here' : 'That did not work'}</h1>
    <p class="soft mb-4">{page.error?.message}</p>
    <a class="act act-go" href="/">To the Workroom</a>
  </div>
</main>
