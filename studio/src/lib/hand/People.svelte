<script lang="ts">
  import { goto } from '$app/navigation';
  import { ask } from '$lib/client/api';
  import { useSession } from '$lib/shared/desk.svelte';
  import { roleMay, roles } from '$lib/shared/rights';
  import { dayOf } from '$lib/shared/moments';
  import type { Invitation, Member, Role } from '$lib/shared/types';
  import { Asked } from './asking.svelte';
  import CopyField from './CopyField.svelte';
  import DoorBook from './DoorBook.svelte';
  import Hooks from './Hooks.svelte';
  import PadKeys from './PadKeys.svelte';

  const session = useSession();
  const members = new Asked<{ members: Member[] }>(session, 'members');
  const mayInvite = roleMay(session.role, 'invite');
  const mayMakeKeys = roleMay(session.role, 'make links');
  const invitations = mayInvite ? new Asked<{ invitations: Invitation[] }>(session, 'invitations') : null;

  let role: Role = $state('reviewer');
  let email = $state('');
  let made: { address: string; email: string } | null = $state.raw(null);
  /** Who is about to be taken out or made the owner: asked once more in place. */
  let sure: { person: string; what: 'out' | 'owner' } | null = $state.raw(null);
  let isLeaving = $state(false);

  async function invite(event: SubmitEvent) {
    event.preventDefault();
    const to = email.trim();
    const answer = await invitations!.change<{ address: string }>('POST', '', { role, email: to });
    if (!answer) return;
    made = { address: answer.address, email: to };
    email = '';
  }

  async function takeOut(one: Member) {
    sure = null;
    await members.change('DELETE', `/${one.id}`);
  }

  async function changeRole(one: Member, to: Role) {
    await members.change('PATCH', `/${one.id}`, { role: to });
  }

  /** With another role than before, other things may be done: the page is opened anew. */
  async function handOver(one: Member) {
    sure = null;
    const answer = await ask('POST', `/api/pieces/${session.id}/owner`, { person: one.id });
    if (answer.ok) location.reload();
    else session.notify(answer.error.sentence);
  }

  async function leave() {
    isLeaving = false;
    const answer = await ask('POST', `/api/pieces/${session.id}/leave`);
    if (answer.ok) await goto('/', { invalidateAll: true });
    else session.notify(answer.error.sentence);
  }
</script>

<div class="flex flex-col gap-8">
  <section aria-label="Members" class="flex flex-col gap-2">
    <h3 class="text-[17px]">Members</h3>
    <ul class="flex flex-col">
      {#each members.value?.members ?? [] as one (one.id)}
        {@const isMe = one.id === session.person.id}
        <li class="flex min-h-[38px] flex-wrap items-center gap-3 border-b border-[var(--line)] py-1">
          <span class="min-w-[140px] font-semibold">{one.name}{isMe ? ' (you)' : ''}</span>
          <span class="soft min-w-0 flex-1 truncate">{one.email}</span>
          {#if mayInvite && !isMe}
            {#if sure?.person === one.id}
              <span>{sure.what === 'out' ? `Take ${one.name} out?` : `Make ${one.name} the owner? You stay as an editor.`}</span>
              <button class="act act-go" onclick={() => (sure?.what === 'out' ? takeOut(one) : handOver(one))}>Yes</button>
              <button class="act" onclick={() => (sure = null)}>No</button>
            {:else}
              <select
                class="field h-7"
                aria-label="Role of {one.name}"
                value={one.role}
                disabled={members.isBusy}
                onchange={(event) => changeRole(one, event.currentTarget.value as Role)}
              >
                {#each roles as item (item)}<option>{item}</option>{/each}
              </select>
              <button class="chip" onclick={() => (sure = { person: one.id, what: 'owner' })} aria-label="Hand the ownership over to {one.name}"
                >hand over to</button
              >
              <button class="chip" onclick={() => (sure = { person: one.id, what: 'out' })} aria-label="Take {one.name} out">take out</button>
            {/if}
          {:else}
            <span class="chip">{one.role}</span>
            {#if isMe}
              {#if isLeaving}
                <span>Leave? Only an invitation lets you in again.</span>
                <button class="act act-go" onclick={leave}>Leave</button>
                <button class="act" onclick={() => (isLeaving = false)}>Stay</button>
              {:else}<button class="chip" onclick={() => (isLeaving = true)}>leave</button>{/if}
            {/if}
          {/if}
        </li>
      {/each}
    </ul>
  </section>

  {#if invitations}
    <section aria-label="Invite" class="flex flex-col gap-3">
      <h3 class="text-[17px]">Invite</h3>
      <form class="flex flex-wrap items-end gap-3" onsubmit={invite}>
        <label class="flex flex-col gap-1"
          ><span class="soft">As</span>
          <select class="field h-8" aria-label="Invite as" bind:value={role}>
            <option value="reviewer">reviewer: looks, walks, comments</option>
            <option value="editor">editor: changes it</option>
            <option value="owner">owner: may do all</option>
          </select></label
        >
        <label class="flex min-w-[220px] flex-1 flex-col gap-1"
          ><span class="soft">E-mail to send it to, or none</span><input class="field h-8" type="email" bind:value={email} /></label
        >
        <button class="act act-go h-8" disabled={invitations.isBusy}>{email.trim() ? 'Send the invitation' : 'Make a link'}</button>
      </form>
      {#if made}
        <div role="status" class="flex flex-col gap-1.5 rounded-lg bg-[var(--gold-wash)] p-3">
          <p>{made.email ? `It is sent to ${made.email}. The same link:` : 'For one person, good for two weeks. It is shown only now:'}</p>
          <CopyField value={made.address} label="Link of the invitation" />
        </div>
      {/if}
      {#each invitations.value?.invitations ?? [] as one (one.id)}
        <p class="flex items-center gap-3">
          <span class="flex-1">{one.email || 'A link'}, as {one.role}, by {one.by}, until {dayOf(one.expires)}</span>
          <button
            class="chip"
            onclick={() => invitations.change('DELETE', `/${one.id}`)}
            aria-label="Take the invitation of {one.email || 'a link'} back">take back</button
          >
        </p>
      {/each}
    </section>
    <DoorBook after={[members.value, invitations.value]} />
  {/if}
  {#if mayMakeKeys}<PadKeys />{/if}
  {#if roleMay(session.role, 'make hooks')}<Hooks />{/if}
</div>
