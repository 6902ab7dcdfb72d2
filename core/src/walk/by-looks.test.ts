import { describe, expect, test } from 'vitest';
import { compose, layerId, type ComposeSpec, type PlacedSpec } from '../compose/compose.ts';
import { toScxml } from '../formats/scxml.ts';
import { compile } from '../program/compile.ts';
import { resolveScreen } from '../run/resolve.ts';
import { advance, start } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { audit, routeEnd } from './audit.ts';

/** What a look shows and hides is there, and takes presses, as long as the look is on; the walk goes there as a person would. */

const looks = { hover: { style: { fill: '#30405a' } }, press: { style: { fill: '#10203a' } } };
const back = {
  layers: { back: { at: [20, 700, 120, 60], text: 'Back', style: { fill: '#20304a', ink: '#ffffff' }, looks, lines: ['click → go to home'] } },
} as const;
const at = (x: number, y: number): PlacedSpec => ({ at: [x, y, 120, 60], text: 'Go on', style: { fill: '#20304a', ink: '#ffffff' }, looks });

/** A card whose button is hidden, and shown by a look of the card. */
const card = (look: 'hover' | 'focus' | 'selected', more: Readonly<Record<string, PlacedSpec>> = {}, own: PlacedSpec = {}): ComposeSpec => ({
  frames: {
    home: {
      layers: {
        card: { type: 'group', at: [20, 100, 320, 300], looks: { [look]: { inside: { odd: { hidden: false } } } }, ...own },
        ground: { at: [0, 0, 320, 300], in: 'card', style: { fill: '#eeeeee' } },
        odd: { ...at(20, 40), in: 'card', hidden: true, lines: ['click → go to two'] },
        ...more,
      },
    },
    two: back,
    three: back,
  },
});

const run = (spec: ComposeSpec, ...events: RunEvent[]): { readonly now: RunState; readonly there: readonly string[] } => {
  const program = compile(compose(spec));
  const now = events.reduce((one, event) => advance(program, one, event).run, start(program)!);
  return { now, there: resolveScreen(program, now).surfaces.flatMap(({ all }) => all.map(({ node }) => node.layer.name)) };
};

const told = (spec: ComposeSpec) => {
  const program = compile(compose(spec));
  const { findings, exploration } = audit(program);
  for (const one of findings) if (one.route) expect(routeEnd(program, one)).not.toBeNull();
  return { rules: findings.map(({ rule, sentence }) => `${rule}: ${sentence}`), reached: [...exploration.reached.keys()], count: exploration.count };
};

describe('while the pointer is over what shows it', () => {
  const move = { type: 'move', x: 60, y: 160 } as const;

  test('it is there, and is pressed there', () => {
    expect(run(card('hover')).there).toEqual(['card', 'ground']);
    expect(run(card('hover'), move).there).toEqual(['card', 'ground', 'odd']);
    expect(run(card('hover'), move, { type: 'move', x: 380, y: 800 }).there).toEqual(['card', 'ground']);
    const { now } = run(card('hover'), move, { ...move, type: 'press' }, { ...move, type: 'release' });
    expect(now.frame).toBe('two');
  });

  test('what a look hides is away as long, and takes no presses', () => {
    const spec = card(
      'hover',
      { odd: { ...at(20, 40), in: 'card', lines: ['click → go to two'] } },
      { looks: { hover: { inside: { odd: { hidden: true } } } } }
    );
    expect([run(spec).there, run(spec, move).there]).toEqual([
      ['card', 'ground', 'odd'],
      ['card', 'ground'],
    ]);
  });

  test('a binding wins over looks, and steps leave them out: what is shown for good stays', () => {
    const bound = card('hover', { odd: { ...at(20, 40), in: 'card', when: { shown: '1 > 2' } } });
    expect(run(bound, move).there).toEqual(['card', 'ground']);
    const shown = card('hover', { ground: { at: [0, 0, 320, 300], in: 'card', style: { fill: '#eeeeee' }, lines: ['hover → show odd'] } });
    expect(run(shown, move, { type: 'move', x: 380, y: 800 }).there).toEqual(['card', 'ground', 'odd']);
  });
});

describe('the walk', () => {
  test('goes over it, and tells that a finger and the keyboard do not', () => {
    const { rules, reached } = told(card('hover'));
    expect(reached).toEqual(['home', 'two']);
    expect(rules.filter((rule) => !rule.startsWith('unreachable-frame'))).toEqual([
      'mouse-only: Only a pointer leads to two; with the keyboard nobody gets there.',
      'hover-only: Only hovering leads to two; with a finger nobody gets there.',
    ]);
  });

  test('hovers what is shown so in what shows it', () => {
    const spec = card('hover', { odd: { ...at(20, 40), in: 'card', hidden: true, lines: ['hover → go to two'] } });
    expect(told(spec).reached).toEqual(['home', 'two']);
  });

  test('leaves it before anything is done elsewhere', () => {
    const spec = card('hover', { on: { ...at(20, 500), lines: ['click → go to three'] } });
    const { rules, reached } = told(spec);
    expect(reached).toEqual(['home', 'three', 'two']);
    expect(rules.filter((rule) => rule.startsWith('hover-only'))).toHaveLength(1);
  });

  test('goes by the focus to what that shows', () => {
    const { reached } = told(card('focus', {}, { lines: ['click → send open'] }));
    expect(reached).toEqual(['home', 'two']);
  });

  test('goes by what is selected to what that shows', () => {
    const { rules, reached } = told(card('selected', {}, { lines: ['click → select or unselect card'] }));
    expect(reached).toEqual(['home', 'two']);
    expect(rules.filter((rule) => /dead-end|hover-only|mouse-only|never-fires/.test(rule))).toEqual([]);
  });

  test('tells no states apart for what is only seen', () => {
    const tip = { type: 'text', text: 'At six', at: [20, 40, 120, 20], in: 'card', hidden: true, style: { ink: '#111111' } } as const;
    const on = { on: { ...at(20, 500), lines: ['click → go to two'] } };
    expect(told(card('hover', { odd: tip, ...on })).count).toBe(2);
    expect(told(card('hover', { odd: { ...at(20, 40), in: 'card', hidden: true, lines: ['click → go to three'] }, ...on })).count).toBe(4);
  });

  test('tells what never comes up so: nothing selects the card', () => {
    expect(told(card('selected')).reached).toEqual(['home']);
    expect(told(card('selected')).rules).toContain('never-fires: What it waits for happens in no state that can be reached.');
  });
});

test('a chart of states says by name that it does not tell it', () => {
  const program = compile(compose(card('hover')));
  expect(toScxml(program).omitted).toContain('what looks of card show and hide');
  expect(program.piece.layers.get(layerId('home', 'odd'))!.hidden).toBe(true);
});
