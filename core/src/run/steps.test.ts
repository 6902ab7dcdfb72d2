import { describe, expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import type { Piece } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { unwrap } from '../result.ts';
import { advance, replay, start } from './run.ts';
import type { Effect, RunEvent } from './state.ts';

/** What steps say and do, also where there is nothing to do it to. */

const click = (layer: string): RunEvent => ({ type: 'click', layer: id('home', layer) });
const key = (name: string): RunEvent => ({ type: 'key', key: name });

function play(piece: Piece, events: readonly RunEvent[]) {
  const program = compile(piece);
  const { run, reports } = replay(program, start(program)!, events);
  const steps = reports.flatMap(({ fired }) => fired.flatMap((one) => one.steps));
  const effects = reports.flatMap((report) => report.effects);
  return {
    run,
    root: run.roots['home']!,
    said: steps.map(({ sentence }) => sentence),
    why: reports.flatMap(({ whyNot }) => whyNot.map(({ code }) => code)),
    sent: effects.flatMap((effect) => (effect.type === 'signal' ? [effect.signal] : [])),
    of: <T extends Effect['type']>(type: T) => effects.filter((effect): effect is Extract<Effect, { type: T }> => effect.type === type),
  };
}

const without = (piece: Piece, table: 'layers' | 'variables' | 'scenes', gone: string): Piece =>
  unwrap(apply(piece, [{ op: 'remove', table, id: gone } as Operation])).piece;

const long: ComposeSpec = {
  frames: {
    home: {
      contentHeight: 2000,
      layers: {
        top: { at: [0, 0, 50, 50], pin: ['top'], lines: ['click → scroll to top · 200 ms ease'] },
        bottom: { at: [60, 0, 50, 50], pin: ['top'], lines: ['click → scroll to bottom'] },
        there: { at: [120, 0, 50, 50], pin: ['top'], lines: ['click → scroll to far'] },
        inside: { at: [180, 0, 50, 50], pin: ['top'], lines: ['click → scroll to end · 100 ms ease'] },
        away: { at: [240, 0, 50, 50], pin: ['top'], lines: ['click → hide far; scroll to far'] },
        far: { at: [0, 900, 50, 50] },
        row: { type: 'group', at: [0, 200, 100, 80], scroll: 'both', clip: true, lines: ['scroll down 10 → send row'] },
        first: { at: [0, 200, 90, 60], in: 'row' },
        end: { at: [300, 500, 60, 40], in: 'row' },
      },
      lines: ['scroll down 10 → send frame'],
    },
  },
};
const row = id('home', 'row');

describe('scrolling by steps', () => {
  const piece = compose(long);

  test('to the ends of the frame, in a time or at once', () => {
    const down = play(piece, [click('bottom')]);
    expect([down.root.scroll['']!.y, down.said, down.of('tween')]).toEqual([2000 - 844, ['scrolled to the bottom', 'sent frame'], []]);
    const up = play(piece, [click('bottom'), click('top')]);
    expect([up.root.scroll['']!.y, up.said.at(-1)]).toEqual([0, 'scrolled to the top']);
    expect(up.of('tween')).toMatchObject([{ of: 'home', names: ['scrollX', 'scrollY'], timing: { ms: 200 } }]);
  });

  test('to a layer of the frame, and to one in a group that scrolls', () => {
    const there = play(piece, [click('there')]);
    expect([there.root.scroll['']!.y, there.sent]).toEqual([900, ['frame']]);
    const inside = play(piece, [click('inside')]);
    expect(inside.root.scroll[row]).toMatchObject({ x: 260, y: 460 });
    expect([inside.root.scroll[''], inside.sent, inside.said]).toEqual([undefined, ['row'], ['scrolled to end', 'sent row']]);
    expect(inside.of('tween')).toMatchObject([{ of: row }]);
    // From where it is scrolled to it is the same place.
    expect(play(piece, [click('inside'), click('inside')]).root.scroll[row]).toMatchObject({ x: 260, y: 460 });
  });

  test('not to what is hidden', () => {
    expect(play(piece, [click('away')])).toMatchObject({ said: ['hid far', 'far is hidden.'], why: ['hidden'], sent: [] });
  });

  test('a group that scrolls to one side stays where it is on the other', () => {
    const sideways = compose({
      frames: {
        home: { ...long.frames['home']!, layers: { ...long.frames['home']!.layers, row: { ...long.frames['home']!.layers!['row']!, scroll: 'x' } } },
      },
    });
    expect(play(sideways, [{ type: 'scroll', layer: row, x: 5000, y: 5000 }]).root.scroll[row]).toMatchObject({ x: 260, y: 0 });
  });

  test('going sideways keeps the way that was gone before', () => {
    const wide = play(piece, [
      { type: 'scroll', layer: row, x: 0, y: 50 },
      { type: 'scroll', layer: row, x: 40, y: 50 },
      { type: 'scroll', layer: row, x: 40, y: 60 },
    ]);
    expect(wide.sent).toEqual(['row']);
    expect(wide.root.scroll[row]).toMatchObject({ direction: 'down', turn: 0 });
  });
});

test('what comes into view is told as often as it does, and what was in it is not told', () => {
  const piece = compose({
    frames: {
      home: {
        contentHeight: 2000,
        layers: {
          near: { at: [0, 0, 50, 50], lines: ['in view → send near'] },
          far: { at: [0, 1200, 50, 50], lines: ['in view → send far', 'click → send x'] },
        },
      },
    },
  });
  const to = (y: number): RunEvent => ({ type: 'scroll', layer: null, x: 0, y });
  expect(play(piece, [to(20), to(500), to(520), to(20)]).sent).toEqual(['far', 'near']);
  expect(play(piece, [to(500), to(0), to(500)]).sent).toEqual(['far', 'near', 'far']);
});

describe('where something is gone, or will have none of it', () => {
  const spec: ComposeSpec = {
    variables: { Count: { type: 'number', initial: 1 } },
    parts: { Lamp: { states: { Off: {}, On: {} }, layers: { bulb: { at: [0, 0, 10, 10] } } } },
    frames: {
      home: {
        states: { A: {}, B: {} },
        layers: {
          box: { at: [0, 0, 50, 50], when: { shown: 'Count > 0', enabled: 'Count > 0', selected: 'Count > 5' } },
          plain: { at: [200, 0, 50, 50], selected: false },
          lamp: { at: [60, 0, 50, 50], part: 'Lamp' },
          bound: { at: [120, 0, 50, 50], part: 'Lamp', when: { state: '"Off"' } },
        },
        lines: [
          'key a → select box',
          'key b → disable box',
          'key c → hide box',
          'key d → put bound in On',
          'key e → put lamp in On · dissolve 100 ms ease; put lamp in On',
          'key f → set Count to 7; send after',
          'key g → move plain to 5, 6; move plain by 1, 1 · 100 ms ease; tween opacity of plain to 4',
          'key h → select or unselect plain; enable or disable plain; hide plain',
          'key i → lay over other at bottom; lay over other at top',
          'key j → lift',
          'key k → previous state; put this in B; next state; next state around',
        ],
      },
      other: { lines: ['key a → lift', 'key l → lift; lift', 'key m → back'] },
    },
  };
  const piece = compose(spec);

  test.each([
    ['a', 'box is selected by an expression, which wins.', 'bound'],
    ['b', 'box is enabled by an expression, which wins.', 'bound'],
    ['c', 'box is shown by an expression, which wins.', 'bound'],
    ['d', 'The state of bound follows an expression, which wins.', 'bound'],
    ['j', 'No frame lies over this one.', 'nothing-laid'],
  ])('key %s: %s', (name, sentence, why) => {
    expect(play(piece, [key(name)])).toMatchObject({ said: [sentence], why: [why] });
  });

  test('a step against an expression leaves nothing behind that would show later', () => {
    const later = {
      ...spec,
      frames: {
        ...spec.frames,
        home: {
          ...spec.frames['home'],
          layers: {
            ...spec.frames['home']!.layers,
            bound: { at: [120, 0, 50, 50] as const, part: 'Lamp', when: { state: 'if Count = 7 then "none" else "Off"' } },
          },
        },
      },
    };
    const { run } = play(compose(later), [key('d'), key('f')]);
    expect(run.roots['home']!.states).toEqual({});
  });

  test('a placement comes into a state once', () => {
    const done = play(piece, [key('e')]);
    expect([done.said, done.why]).toEqual([['set lamp to On'], []]);
    expect(play(piece, [key('e'), { type: 'wait', ms: 200 }])).toMatchObject({
      said: ['set lamp to On', 'lamp is in On already.'],
      why: ['there-already'],
    });
    expect(done.of('show')).toMatchObject([{ of: id('home', 'lamp'), transition: { type: 'dissolve' } }]);
  });

  test('states go on and round, and say where they end', () => {
    expect(play(piece, [key('k'), { type: 'wait', ms: 2000 }]).said).toEqual([
      'home is in its first state.',
      'set home to B',
      'home is in its last state.',
      'set home to A',
    ]);
  });

  test('numbers are set, changed and kept within what they can be', () => {
    const done = play(piece, [key('g'), { type: 'wait', ms: 200 }]);
    expect(done.root.changes[id('home', 'plain')]).toEqual({ x: 6, y: 7, opacity: 1 });
    expect(done.of('tween')).toMatchObject([{ names: ['x', 'y'], timing: { ms: 100 } }]);
    expect(done.said).toEqual(['moved plain', 'moved plain', 'tweened opacity of plain to 4']);
  });

  test('flags are set, and changed to what they were not', () => {
    const flags = (times: number) =>
      play(
        piece,
        Array.from({ length: times }, () => key('h'))
      );
    const plain = id('home', 'plain');
    expect(flags(1).root.flags).toMatchObject({ [`${plain}.selected`]: true, [`${plain}.enabled`]: false, [`${plain}.shown`]: false });
    expect(flags(2).root.flags).toMatchObject({ [`${plain}.selected`]: false, [`${plain}.enabled`]: true, [`${plain}.shown`]: false });
    expect(flags(1).said).toEqual(['selected plain', 'disabled plain', 'hid plain']);
    expect(flags(1).of('show')).toMatchObject([{ of: plain }]);
  });

  test('a frame is laid over once, and lifted; back lifts it as well', () => {
    const laid = play(piece, [key('i')]);
    expect(laid).toMatchObject({ said: ['laid other over', 'other is on the screen already.'], why: ['there-already'] });
    expect(laid.run.overlays).toEqual([{ frame: 'other', at: 'bottom', scrim: null, closes: false }]);
    const lifted = play(piece, [key('i'), key('l')]);
    expect([lifted.said.slice(2), lifted.run.overlays]).toEqual([['lifted other', 'No frame lies over this one.'], []]);
    expect(lifted.of('lift')).toMatchObject([{ type: 'lift', frame: 'other' }]);
    expect(play(piece, [key('i'), key('m')])).toMatchObject({ said: ['laid other over', 'other is on the screen already.', 'lifted other'] });
    expect(play(piece, [key('i'), key('m')]).run).toMatchObject({ overlays: [], over: [], pressed: null, frame: 'home' });
  });

  test('what was deleted is said', () => {
    expect(play(without(piece, 'layers', id('home', 'plain')), [key('h')])).toMatchObject({
      why: ['missing-target', 'missing-target', 'missing-target'],
    });
    expect(play(without(piece, 'layers', id('home', 'lamp')), [key('e')]).said[0]).toBe('What it brings into a state has been deleted.');
    const [count] = [...piece.variables.keys()];
    expect(play(without(piece, 'variables', count!), [key('f')])).toMatchObject({
      said: ['The variable it sets has been deleted.', 'sent after'],
      sent: ['after'],
    });
  });

  test('a layer of another frame is not on the screen', () => {
    const thread = [...piece.threads.values()].find(({ owner, cue }) => owner === 'other' && 'key' in cue && cue.key === 'a')!;
    const step = { do: 'show', layer: id('home', 'plain'), what: 'off', transition: { type: 'cut' } };
    const elsewhere = unwrap(
      apply(piece, [{ op: 'set', table: 'threads', id: thread.id, path: ['branches', '0', 'steps', '0'], value: step }])
    ).piece;
    const program = compile(elsewhere);
    const there = advance(program, start(program, 'other')!, key('a'));
    expect(there.reports.flatMap(({ whyNot }) => whyNot.map(({ code }) => code))).toEqual(['not-here']);
  });
});

describe('playing', () => {
  const piece = compose({
    fps: 10,
    parts: {
      Clip: { timeline: { length: 20, autoplay: false, labels: { In: [0, 'hold'], Out: [10, 'hold'] } }, layers: { dot: { at: [0, 0, 9, 9] } } },
      Still: { layers: { dot: { at: [0, 0, 9, 9] } } },
    },
    frames: {
      home: {
        timeline: { length: 30, autoplay: false, labels: { One: [5, 'hold'], Two: [10, 'hold'], Three: [20, 'hold'] } },
        layers: { clip: { at: [0, 0, 50, 50], part: 'Clip' }, still: { at: [60, 0, 50, 50], part: 'Still' } },
        lines: [
          'key n → play next section; send there',
          'key p → play previous section',
          'key a → play clip from Out; send out',
          'key s → show in clip label Out',
          'key x → pause clip',
          'key o → start over clip',
          'key t → play from Two',
          'key l → show label Three',
          'key q → play still; pause still',
        ],
      },
      bare: { lines: ['key n → play next section', 'key o → start over', 'key q → pause'] },
    },
  });
  const clip = id('home', 'clip');

  test('sections are turned to, one after the other and round', () => {
    expect(play(piece, [key('n')]).said).toEqual(['played from One']);
    expect(play(piece, [key('n'), key('n'), key('n'), key('n')]).said).toEqual([
      'played from One',
      'played from Two',
      'played from Three',
      'played from the beginning',
    ]);
    expect(play(piece, [key('p')]).said).toEqual(['played from Three']);
    expect(play(piece, [key('n')]).sent).toEqual([]);
    expect(play(piece, [key('n'), { type: 'wait', ms: 600 }]).sent).toEqual(['there']);
  });

  test('a placement plays from a label, shows one, is paused and starts over', () => {
    const from = play(piece, [key('a')]);
    expect([from.said, from.root.heads[clip]]).toMatchObject([['played from Out'], { at: 10, playing: true }]);
    expect(play(piece, [key('a'), { type: 'wait', ms: 1200 }]).sent).toEqual(['out']);
    const shown = play(piece, [key('s')]);
    expect([shown.said, shown.root.heads[clip]]).toMatchObject([['showed Out'], { at: 10, playing: false }]);
    const paused = play(piece, [key('o'), { type: 'wait', ms: 300 }, key('x')]);
    expect([paused.said, paused.root.heads[clip]]).toMatchObject([['started clip', 'paused clip'], { at: 3, playing: false }]);
  });

  test('this timeline plays from a label and shows one', () => {
    expect(play(piece, [key('t')]).root.heads['']).toMatchObject({ at: 10, playing: true });
    expect(play(piece, [key('l')]).root.heads['']).toMatchObject({ at: 20, playing: false });
  });

  test('labels that are gone, and scenes without a time, are said', () => {
    const scene = piece.scenes.get('Clip')!;
    const less = unwrap(apply(piece, [{ op: 'set', table: 'scenes', id: 'Clip', path: ['timeline', 'labels'], value: {} }])).piece;
    expect(scene.timeline!.labels).toBeDefined();
    expect(play(less, [key('a')])).toMatchObject({ said: ['The label it names is not there.', 'sent out'], why: ['missing-target'] });
    expect(play(less, [key('s')])).toMatchObject({ why: ['missing-target'] });
    const none = unwrap(apply(piece, [{ op: 'set', table: 'scenes', id: 'Clip', path: ['timeline'] }])).piece;
    expect(play(none, [key('a')])).toMatchObject({ why: ['missing-target'] });
    expect(play(none, [key('s')])).toMatchObject({ why: ['missing-target'] });
    const program = compile(piece);
    const bare = replay(program, start(program, 'bare')!, [key('n'), key('o'), key('q')]);
    expect(bare.reports.flatMap(({ fired }) => fired.flatMap(({ steps }) => steps.map(({ sentence }) => sentence)))).toEqual([
      'This scene has no timeline.',
      'This scene has no timeline.',
      'paused bare',
    ]);
    expect(play(piece, [key('q')]).said).toEqual(['played still', 'paused still']);
  });
});

describe('places', () => {
  const piece = compose({
    frames: {
      home: { lines: ['key n → next', 'key l → go to last', 'key b → back', 'key p → previous', 'key r → go replacing to third'] },
      second: { lines: ['key n → next', 'key p → previous', 'key b → back', 'key f → go to first', 'key s → go to start'] },
      third: { lines: ['key n → next', 'key p → previous', 'key b → back'] },
    },
  });
  test.each([
    [['n'], 'second'],
    [['l'], 'third'],
    [['p'], 'home'],
    [['n', 'n', 'p'], 'second'],
    [['n', 'n', 'n'], 'third'],
    [['n', 'n', 'b'], 'second'],
    [['n', 'n', 'b', 'b'], 'home'],
    [['r', 'b'], 'third'],
    [['n', 'f'], 'home'],
    [['n', 's'], 'home'],
  ])('%j leads to %s', (keys, frame) => {
    expect(play(piece, keys.map(key)).run.frame).toBe(frame);
  });

  test('where there is none, it is said', () => {
    expect(play(piece, [key('p')])).toMatchObject({ said: ['This is the first frame, so there is no previous one.'], why: ['nowhere'] });
    expect(play(piece, [key('b')])).toMatchObject({ said: ['There is nothing to go back to.'] });
    expect(play(piece, [key('l'), key('n')]).said).toEqual(['went to third', 'This is the last frame, so there is no next one.']);
  });
});
