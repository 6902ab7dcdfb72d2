<script lang="ts">
  import { COMPARISONS, displayExpression, parseExpression, typeOfExpression, typesIn, writeThing, type Clause, type LineScope } from '@zany/core';
  import ChipMenu from '$lib/shared/ChipMenu.svelte';
  import { useSession } from '$lib/shared/desk.svelte';
  import ExpressionField from './ExpressionField.svelte';

  let { clause, scope, onchange }: { clause: Clause; scope: LineScope; onchange: (clause: Clause) => void } = $props();

  const session = useSession();
  const id = $derived(/^‹([^›]+)›/.exec(clause.left)?.[1] ?? null);
  const type = $derived.by(() => {
    const parsed = parseExpression(clause.left);
    return parsed.ok ? typeOfExpression(parsed.value, typesIn(session.piece)) : null;
  });

  /** All that can be asked about, nearest first: variables, what is selected here, states. */
  const subjects = $derived.by(() => {
    const layer = (of: string) => session.piece.layers.get(of.split('/').at(-1)!);
    const found = scope.expression.things.flatMap((thing): { value: string; label: string }[] => {
      const name = writeThing(thing.name);
      if (thing.kind === 'variable') return [{ value: `‹${thing.id}›`, label: name }];
      const properties =
        thing.kind === 'scene'
          ? session.piece.scenes.get(thing.id)?.states
            ? ['state']
            : []
          : [
              'selected',
              'enabled',
              'shown',
              ...(layer(thing.id)?.field ? ['value'] : []),
              ...(session.piece.scenes.get(layer(thing.id)?.part ?? '')?.states ? ['state'] : []),
            ];
      return properties.map((property) => ({ value: `‹${thing.id}›.${property}`, label: `${name}.${property}` }));
    });
    return [...found, { value: 'frame.name', label: 'frame.name' }, { value: 'pad.button', label: 'pad.button' }];
  });

  /** The values that the right side can have, where they can be counted. */
  const values = $derived.by((): { value: string; label: string }[] | null => {
    const variable = id === null ? undefined : session.piece.variables.get(id);
    if (variable?.type === 'choice') return (variable.options ?? []).map((option) => ({ value: JSON.stringify(option), label: option }));
    if (clause.left === 'frame.name') return scope.frames.map((frame) => ({ value: `‹=${frame.id}›`, label: frame.name }));
    if (id !== null && clause.left.endsWith('.state'))
      return scope.expression.valuesOf(id, 'state').map(({ reference, name }) => ({ value: `‹=${reference}›`, label: name }));
    return null;
  });
  const words: Record<Clause['how'], string> = {
    is: 'holds',
    'is not': 'does not hold',
    '=': '=',
    '!=': '≠',
    '<': '<',
    '<=': '≤',
    '>': '>',
    '>=': '≥',
  };
  const ways = $derived<readonly Clause['how'][]>(type === 'yes/no' ? ['is', 'is not'] : type === 'number' ? COMPARISONS : ['=', '!=']);

  function setLeft(left: string) {
    const parsed = parseExpression(left);
    const next = parsed.ok ? typeOfExpression(parsed.value, typesIn(session.piece)) : null;
    if (next === 'yes/no') return onchange({ left, how: 'is', right: null });
    const how = clause.how === 'is' || clause.how === 'is not' ? '=' : clause.how;
    onchange({ left, how: next === 'number' ? how : '=', right: next === 'number' ? '0' : '""' });
  }

  const shown = (stored: string) => displayExpression(stored, scope.expression).text;
</script>

<span class="flex min-w-0 flex-1 flex-wrap items-center gap-1">
  <ChipMenu name="Asks about" label={shown(clause.left)} tone="chip-teal" options={subjects} filter onpick={setLeft} />
  <ChipMenu
    name="How"
    label={words[clause.how]}
    options={ways.map((how) => ({ value: how, label: words[how] }))}
    onpick={(how) => onchange({ ...clause, how })}
  />
  {#if clause.right !== null}
    {#if values}
      <ChipMenu
        name="Value"
        label={shown(clause.right).replace(/^"(.*)"$/, '$1') || 'choose'}
        tone="chip-teal"
        options={values}
        filter
        onpick={(right) => onchange({ ...clause, right })}
      />
    {:else}
      <ExpressionField value={clause.right} {scope} wanted={type} label="Value" onchange={(right) => onchange({ ...clause, right })} />
    {/if}
  {/if}
</span>
