<script lang="ts">
  import { useSession } from '$lib/shared/desk.svelte';
  import { dayOf } from '$lib/shared/moments';
  import { hookEvents, type Hook, type HookAnswer, type HookEvent } from '$lib/shared/types';
  import { Asked } from './asking.svelte';
  import CopyField from './CopyField.svelte';

  /** Addresses that are told what happens to the piece. */
  const session = useSession();
  const hooks = new Asked<{ hooks: Hook[] }>(session, 'hooks');
  const all = Object.keys(hookEvents) as HookEvent[];

  let address = $state('');
  let events: HookEvent[] = $state([...all]);
  let secret: string | null = $state.raw(null);
  /** What came of trying one just now. */
  let tried: { id: string; answer: HookAnswer } | null = $state.raw(null);

  async function make(event: SubmitEvent) {
    event.preventDefault();
    const answer = await hooks.change<{ secret: string }>('POST', '', { address: address.trim(), events });
    if (answer) [secret, address] = [answer.secret, ''];
  }

  async function tryOne(id: string) {
    const answer = await hooks.change<HookAnswer>('POST', `/${id}`);
    tried = answer && { id, answer };
  }
</script>

<section aria-label="Tell other programs" class="flex flex-col gap-3">
  <h3 class="text-[17px]">Tell other programs</h3>
  <p class="soft">An address on the web is told what happens to this piece: signed, and again later where it does not answer.</p>
  <form class="flex flex-col gap-2" onsubmit={make}>
    <label class="flex flex-col gap-1"
      ><span class="soft">Address</span><input
        class="field h-8"
        type="url"
        required
        maxlength="2000"
        bind:value={address}
        placeholder="https://build.kittiwake.example/told"
      /></label
    >
    <fieldset class="flex flex-wrap items-center gap-x-4 gap-y-1">
      <legend class="soft">It is told of</legend>
      {#each all as event (event)}<label class="flex items-center gap-1.5" title={hookEvents[event]}
          ><input type="checkbox" value={event} bind:group={events} />{event}</label
        >{/each}
      <button class="act ml-auto h-8" disabled={hooks.isBusy || events.length === 0}>Tell it</button>
    </fieldset>
  </form>
  {#if secret}
    <div role="status" class="flex flex-col gap-1">
      <p>With this secret it can check that it was this studio. It is shown this once.</p>
      <CopyField value={secret} label="The secret" />
    </div>
  {/if}
  {#each hooks.value?.hooks ?? [] as one (one.id)}
    <div class="flex items-center gap-3">
      <p class="min-w-0 flex-1">
        <span class="block truncate">{one.address}</span>
        <span class="soft text-[13px]"
          >{one.events.join(', ')} · {#if one.answered === null}not told anything yet{:else if one.answered.problem === null}took the last one, {dayOf(
              one.answered.at
            )}{:else}<span class="text-[var(--brick-text)]">did not take the last one, {dayOf(one.answered.at)}: {one.answered.problem}</span
            >{/if}</span
        >
        {#if tried?.id === one.id && tried.answer.problem === null}<span class="block text-[13px] text-[var(--teal)]" role="status"
            >It took what it was told to try it.</span
          >{/if}
      </p>
      <button class="chip" disabled={hooks.isBusy} onclick={() => tryOne(one.id)} aria-label="Try {one.address}">try it</button>
      <button class="chip" onclick={() => hooks.change('DELETE', `/${one.id}`)} aria-label="Tell {one.address} no more">tell it no more</button>
    </div>
  {/each}
</section>
