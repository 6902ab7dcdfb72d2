<script lang="ts">
  import { enhance } from '$app/forms';
  import Doorway from '$lib/shared/Doorway.svelte';
  import type { ActionData } from './$types';

  let { form }: { form: ActionData } = $props();
</script>

<Doorway title="A forgotten password">
  {#if form && 'sent' in form}
    <p role="status">If there is an account with this address, a letter with a link is on its way. The link is good for an hour.</p>
  {:else}
    <p class="soft">A link by which you can choose a new one is sent to your address.</p>
    <form method="POST" use:enhance class="flex flex-col gap-3">
      <label class="flex flex-col gap-1"
        ><span class="soft">E-mail</span><input
          class="field h-9"
          name="email"
          type="email"
          autocomplete="username"
          required
          value={form?.email ?? ''}
        /></label
      >
      {#if form?.problem}<p role="alert" class="text-[var(--brick-text)]">{form.problem}</p>{/if}
      <button class="act act-go h-9 justify-center">Send the link</button>
    </form>
  {/if}
  <a class="soft self-start underline" href="/sign-in">Back to the sign-in</a>
</Doorway>
