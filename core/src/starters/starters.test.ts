import { describe, expect, it } from 'vitest';
import { apply } from '../edit/apply.ts';
import { scenesOf, statesOf, type Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { stillScreen } from '../run/still.ts';
import { unwrap } from '../result.ts';
import { advance, start } from '../run/run.ts';
import { resolveScreen } from '../run/resolve.ts';
import { compose } from '../compose/compose.ts';
import { audit } from '../walk/audit.ts';
import { insertStarter } from './insert.ts';
import { starters } from './table.ts';

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};

const blank = compose({ frames: { home: {} } });

const inserted = (id: string): { piece: Piece; placement: string } => {
  const starter = starters.find((one) => one.id === id)!;
  const { operations, placement } = insertStarter(blank, starter, 'home', counter(), { x: 195, y: 422 });
  return { piece: unwrap(apply(blank, operations)).piece, placement: placement! };
};

describe('starter parts', () => {
  it.each(starters.map(({ id }) => [id]))('%s comes in, is seen, and holds no mistake', (id) => {
    const { piece, placement } = inserted(id);
    const part = piece.layers.get(placement)!.part!;
    const states = [null, ...statesOf(piece.scenes.get(part)!).map((state) => state.id)];
    const seen = (state: string | null) => stillScreen(compile(piece), part, { state })!.surfaces[0]!.all.filter((shown) => shown.opacity > 0);
    expect(Math.max(...states.map((state) => seen(state).length))).toBeGreaterThan(0);
    const faults = audit(compile(piece)).findings.filter((finding) =>
      ['expression-error', 'missing-target', 'small-hit', 'endless-loop'].includes(finding.rule)
    );
    expect(faults.map((finding) => finding.sentence)).toEqual([]);
  });

  it('are put in once and placed again', () => {
    const first = inserted('button').piece;
    let n = 0;
    const again = insertStarter(
      first,
      starters.find((one) => one.id === 'button')!,
      'home',
      () => `again${n++}`
    );
    const piece = unwrap(apply(first, again.operations)).piece;
    expect(scenesOf(piece, 'part')).toHaveLength(1);
    expect(piece.layers.get(again.placement!)!.name).toBe('Button 2');
  });

  /** Presses layers of the part by name and gives the texts and places that are then seen. */
  const pressed = (id: string, presses: readonly string[]) => {
    const { piece, placement } = inserted(id);
    const key = (name: string) => `${placement}/${[...piece.layers.values()].find((layer) => layer.name === name && layer.id !== placement)!.id}`;
    const program = compile(piece);
    let run = start(program)!;
    for (const name of presses) run = advance(program, run, { type: 'click', layer: key(name) }).run;
    const shown = resolveScreen(program, run).surfaces[0]!.all;
    return (name: string) => shown.find((one) => one.node.key === key(name));
  };

  it('count, tick, open and slide when they are pressed', () => {
    expect(pressed('stepper', ['More', 'More'])('Number')!.text).toBe('3');
    expect(pressed('stepper', ['Less'])('Less')!.enabled).toBe(false);
    expect(pressed('checkbox', ['Area'])('Tick')!.style.opacity).toBe(1);
    expect(pressed('switch', ['Area'])('Knob')!.x).toBe(210);
    expect(pressed('menu-bar', ['Fares'])('Fares sheet')).toBeDefined();
    expect(pressed('menu-bar', ['Fares', 'Fares'])('Fares sheet')).toBeUndefined();
    expect(pressed('carousel', ['On', 'On'])('On')!.enabled).toBe(false);
    expect(pressed('tabs', ['Third tab'])('Third panel')).toBeDefined();
    expect(pressed('choice', ['Second option'])('First dot')).toBeUndefined();
    expect(pressed('accordion', ['First heading'])('Third heading')!.y).toBe(224);
    expect(pressed('slide-over-menu', ['Icon'])('List')!.x).toBe(0);
  });
});
