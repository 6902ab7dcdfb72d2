import { describe, expect, test } from 'vitest';
import { compose, layerId as id } from '../compose/compose.ts';
import { counting, told } from '../testing/told.ts';
import { apply } from '../edit/apply.ts';
import { compile } from '../program/compile.ts';
import { update } from '../program/program.ts';
import { unwrap } from '../result.ts';
import { advance, begin, isPlaying, nextDeadline, start } from './run.ts';
import type { RunEvent } from './state.ts';

/** What each event is told to, and what it leaves behind. Threads only count: which of them fire is what is asked. */

const here = (name: string) => id('home', name);

const click = (layer: string | null): RunEvent => ({ type: 'click', layer });
const key = (name: string): RunEvent => ({ type: 'key', key: name });

describe('beginning', () => {
  test('with no frame, or one that is not there, nothing begins', () => {
    const { program } = told({});
    expect([begin(program, 'nowhere'), start(program, 'nowhere'), start(program, null), begin(program, null)]).toEqual([null, null, null, null]);
    expect(start(compile(compose({ frames: {} })))).toBeNull();
  });

  test('a piece whose frame is deleted under it goes on from its start, with what it knows', () => {
    const spec = { frames: { home: { layers: { a: { at: [0, 0, 50, 50] as const, lines: ['click → go to shop'] } } }, shop: {} } };
    const { made, program, run } = told(spec);
    const gone = { ...run(click(here('a')), { type: 'wait', ms: 70 }).run, variables: { n: 7 } };
    const edited = unwrap(apply(made, [{ op: 'remove', table: 'scenes', id: 'shop' }]));
    const now = update(program, edited.piece, edited.touched);
    expect([nextDeadline(now, gone), isPlaying(now, gone)]).toEqual([null, false]);
    const { run: moved } = advance(now, gone, key('x'));
    expect([moved.frame, moved.clock, moved.variables, moved.count]).toEqual(['home', 70, { n: 7 }, gone.count]);
    const none = unwrap(apply(edited.piece, [{ op: 'remove', table: 'scenes', id: 'home' }]));
    expect(advance(update(now, none.piece, none.touched), gone, key('x'))).toEqual({ run: gone, reports: [] });
  });
});

describe('clicks on something by name', () => {
  const box = (y: number, ...lines: string[]) => ({ at: [0, y, 50, 50] as const, lines });

  test('press and let go only where somebody waits for that, and two by themselves are no double click', () => {
    const { run } = told({}, { a: box(0, ...counting('click', 'double click')), b: box(100, ...counting('press', 'release', 'click')) });
    expect(run(click(here('a')), click(here('a'))).told).toEqual(['a: click', 'a: click']);
    expect(run({ type: 'double-click', layer: here('a') }).told).toEqual(['a: click', 'a: click', 'a: double click']);
    expect(run(click(here('b'))).told).toEqual(['b: press', 'b: release', 'b: click']);
    expect(run({ type: 'long-press', layer: here('a') }).told).toEqual([]);
  });

  test('what comes after a press finds the run as the press has left it, as does the second of two clicks', () => {
    const n = { type: 'number' as const, initial: 0, min: 0, max: 9 };
    const pressed = (...lines: string[]) => told({ variables: { n } }, { a: box(0, 'press → set n to n + 1', ...lines) });
    const asks = (cue: string) => `${cue} → if n = 1 → send after; otherwise → send before`;
    const sent = ({ reports }: ReturnType<ReturnType<typeof told>['run']>) =>
      reports.flatMap(({ effects }) => effects.flatMap((effect) => (effect.type === 'signal' ? [effect.signal] : [])));
    expect(sent(pressed(asks('click')).run(click(here('a'))))).toEqual(['after']);
    expect(sent(pressed(asks('release')).run(click(here('a'))))).toEqual(['after']);
    expect(sent(pressed(asks('long press 500 ms')).run({ type: 'long-press', layer: here('a') }))).toEqual(['after']);
    expect(sent(pressed(asks('swipe left')).run({ type: 'swipe', layer: here('a'), direction: 'left' }))).toEqual(['after']);
    const counted = told({ variables: { n } }, { a: box(0, 'click → if n = 0 → set n to 1; otherwise → send again', 'double click → send twice') });
    expect(sent(counted.run({ type: 'double-click', layer: here('a') }))).toEqual(['again', 'twice']);
    const dragged = told(
      { variables: { n } },
      { a: { ...box(0, 'press → set n to n + 1', 'release → set n to 0', 'drop → if n = 1 → send after'), drag: { axis: 'both' } } }
    );
    expect(sent(dragged.run({ type: 'drag', layer: here('a'), dx: 60, dy: 60 }))).toEqual(['after']);
    // What the press leads away from is neither long pressed, swiped nor dragged.
    const gone = told({
      frames: {
        home: {
          layers: {
            a: {
              ...box(0, 'press → go to shop', 'long press 500 ms → send held', 'swipe left → send swiped', 'drop → send dropped'),
              drag: { axis: 'both' },
            },
          },
        },
        shop: {},
      },
    });
    const deeds: RunEvent[] = [
      { type: 'long-press', layer: here('a') },
      { type: 'swipe', layer: here('a'), direction: 'left' },
      { type: 'drag', layer: here('a'), dx: 60, dy: 60 },
    ];
    for (const deed of deeds) expect([sent(gone.run(deed)), gone.run(deed).run.frame]).toEqual([[], 'shop']);
  });

  test('what is disabled is not swiped, and lets nobody around it hear of that', () => {
    const { run } = told({}, { a: { ...box(0, ...counting('swipe right')), disabled: true } }, counting('swipe right'));
    const swiped = run({ type: 'press', x: 5, y: 5 }, { type: 'release', x: 90, y: 5 });
    expect([swiped.told, swiped.whys]).toEqual([[], ['let-go-elsewhere']]);
    expect(run({ type: 'press', x: 105, y: 5 }, { type: 'release', x: 190, y: 5 }).told).toEqual(['home: swipe']);
  });

  test('what has the focus below a frame that keeps presses off hears no keys', () => {
    const card = { size: [200, 200] as const, lines: counting('key l') };
    const { run } = told({ frames: { home: { layers: { a: box(0, ...counting('key k'), 'key l → lay over card at center scrim 40 %') } }, card } });
    const focus: RunEvent = { type: 'focus', layer: here('a') };
    expect(run(focus, key('k')).told).toEqual(['a: key']);
    expect(run(focus, key('l'), key('k'), key('l')).told).toEqual(['a: key', 'card: key']);
  });

  test('what is pressed hears that it is let go, wherever that is: on another scene nobody does', () => {
    const lines = counting('press', 'release', 'click');
    const bar = { layers: { tab: { ...box(300), type: 'field' as const, field: { kind: 'choice' as const, options: ['Skarra'] } } }, lines };
    const { run } = told({ sheets: { bar }, frames: { home: { under: ['bar'], lines } } });
    const [ground, tab] = [
      { x: 200, y: 100 },
      { x: 20, y: 320 },
    ];
    expect(run({ type: 'press', ...ground }, { type: 'release', ...tab }).told).toEqual(['home: press', 'home: release']);
    expect(run({ type: 'press', ...tab }, { type: 'release', ...ground }).told).toEqual(['bar: press', 'bar: release']);
    expect(run({ type: 'press', ...tab }, { type: 'release', ...tab }).told).toEqual(['bar: press', 'bar: release', 'bar: click']);
  });

  test('what is held is let go there, as a click, or elsewhere, as none', () => {
    const held = told({}, { a: box(0, ...counting('press', 'release', 'click')), b: box(100, ...counting('hover')) });
    const hold: RunEvent = { type: 'hold', layer: here('a') };
    const letGo = (where: 'there' | 'elsewhere'): RunEvent => ({ type: 'let-go', where });
    expect(held.run(hold).told).toEqual(['a: press']);
    expect(held.run(hold, letGo('there')).told).toEqual(['a: press', 'a: release', 'a: click']);
    expect(held.run(hold, { type: 'wait', ms: 5000 }, letGo('elsewhere')).told).toEqual(['a: press', 'a: release']);
    expect(held.run(letGo('there')).whys).toEqual(['not-held']);
    const all = told({}, { a: { at: [0, 0, 4000, 4000], lines: counting('press', 'click') } });
    expect(all.run(hold, letGo('elsewhere')).whys).toEqual(['covered']);
  });

  test('the second of two comes to nothing where the first led elsewhere, or took the layer away', () => {
    const shop = { shop: { layers: { c: box(0, ...counting('click', 'double click')) } } };
    const led = told({ frames: { home: { layers: { a: box(0, 'click → go to shop', ...counting('double click')) } }, ...shop } });
    expect(led.run({ type: 'double-click', layer: here('a') }).told).toEqual(['a: click']);
    const hid = told({}, { a: box(0, 'click → hide this', ...counting('double click')) }, counting('click'));
    expect(hid.run({ type: 'double-click', layer: here('a') }).told).toEqual(['a: click']);
    const moved = told({}, { a: box(0, 'click → move this to 200, 300', ...counting('double click')) });
    expect(moved.run({ type: 'double-click', layer: here('a') }).told).toEqual(['a: click']);
    const inside = told(
      {},
      { g: { type: 'group', at: [0, 0, 50, 50], lines: counting('click', 'double click') }, a: { in: 'g', at: [0, 0, 50, 50] } }
    );
    expect(inside.run({ type: 'double-click', layer: here('a') }).told).toEqual(['g: click', 'g: click', 'g: double click']);
    const covered = told({}, { a: box(0, 'click → show lid', ...counting('double click')), lid: { ...box(0, ...counting('click')), hidden: true } });
    expect(covered.run({ type: 'double-click', layer: here('a') }).told).toEqual(['a: click']);
  });

  test('the frame takes what is pressed beside its layers; where they take all of it there is no such place', () => {
    const open = told({}, { a: box(0, ...counting('click')) }, counting('click', 'swipe left', 'long press 500 ms', 'double click'));
    expect(open.run(click(null)).told).toEqual(['home: click']);
    expect(open.run({ type: 'swipe', layer: null, direction: 'left' }).told).toEqual(['home: swipe']);
    expect(open.run({ type: 'long-press', layer: null }).told).toEqual(['home: long press']);
    expect(open.run({ type: 'double-click', layer: null }).told).toEqual(['home: click', 'home: click', 'home: double click']);
    // Who only listens for a swipe takes a swipe, and not the click of the frame.
    const all = { at: [0, 0, 390, 844] as const, lines: counting('click', 'press', 'swipe left', 'swipe right', 'long press 500 ms') };
    const shut = told({}, { all }, counting('click'));
    expect(shut.run(click(null))).toMatchObject({ told: [], whys: ['covered'] });
  });

  test('what is not there, or is covered, is not clicked', () => {
    const { run } = told(
      {},
      { a: { ...box(0, ...counting('click')), hidden: true }, b: box(100, ...counting('click')), lid: { at: [0, 90, 90, 90], hit: { how: 'block' } } }
    );
    expect(run(click(here('a'))).whys).toEqual(['unreachable']);
    expect(run(click('nothing')).whys).toEqual(['not-here']);
    expect(run(click(here('b'))).whys).toEqual(['covered']);
  });

  test('what lies below the fold is scrolled to first', () => {
    const { run } = told({ frames: { home: { contentHeight: 2000, layers: { a: box(1500, ...counting('click')) } } } });
    const done = run(click(here('a')));
    expect(done.told).toEqual(['a: click']);
    expect(done.run.roots['home']!.scroll['']!.y).toBeGreaterThan(600);
  });

  test('boxes to tick turn over, unless they are disabled', () => {
    const tick = { ...box(0, ...counting('click')), type: 'field' as const, field: { kind: 'checkbox' as const } };
    const { run } = told(
      {},
      { a: tick, b: { ...tick, at: [0, 100, 50, 50], field: { kind: 'switch', value: true } }, c: { ...tick, at: [0, 200, 50, 50], disabled: true } }
    );
    const flags = (events: RunEvent[]) => run(...events).run.roots['home']!.flags;
    expect(flags([click(here('a'))])).toEqual({ [`${here('a')}.selected`]: true });
    expect(flags([click(here('a')), click(here('a'))])).toEqual({ [`${here('a')}.selected`]: false });
    expect(flags([click(here('b'))])).toEqual({ [`${here('b')}.selected`]: false });
    expect(run(click(here('a'))).told).toEqual(['a: click']);
    expect(run(click(here('c')))).toMatchObject({ told: [], whys: ['disabled'] });
  });
});

describe('coming onto layers by name', () => {
  const layers = (...cues: string[]) => ({
    a: { at: [0, 0, 50, 50] as const, lines: counting(...cues) },
    b: { at: [100, 0, 50, 50] as const, lines: counting('hover') },
  });
  const hover = (name: string): RunEvent => ({ type: 'hover', layer: here(name) });

  test('is coming from elsewhere, as far as nobody waits for leaving', () => {
    const plain = told({}, layers('hover'));
    expect(plain.run(hover('a'), hover('a')).told).toEqual(['a: hover', 'a: hover']);
    const left = told({}, layers('hover', 'leave'));
    expect(left.run(hover('a'), hover('a')).told).toEqual(['a: hover']);
    expect(left.run(hover('a'), hover('b')).told).toEqual(['a: hover', 'a: leave', 'b: hover']);
    expect(left.run(hover('a'), { type: 'leave' })).toMatchObject({ told: ['a: hover', 'a: leave'], run: { over: [], pointer: null } });
  });
});

describe('keys', () => {
  const layer = (y: number, ...lines: string[]) => ({ at: [0, y, 50, 50] as const, lines });

  test('go to the layer with the focus and what is around it, then to the frontmost layer, the scene, the piece', () => {
    const layers = {
      g: { type: 'group' as const, at: [0, 0, 50, 50] as const, lines: counting('key g') },
      a: { ...layer(0, ...counting('key x', 'focus')), in: 'g' },
      b: layer(100, ...counting('key x')),
      c: layer(200, ...counting('key y')),
    };
    const { run } = told({ lines: counting('key z', 'key x') }, layers, counting('key y', 'key w'));
    const focus = { type: 'focus', layer: here('a') } as const;
    expect(run(key('x')).told).toEqual(['b: key']);
    expect(run(focus, key('x')).told).toEqual(['a: focus', 'a: key']);
    expect(run(focus, key('g')).told).toEqual(['a: focus', 'g: key']);
    expect(run(key('y')).told).toEqual(['c: key']);
    expect(run(key('w')).told).toEqual(['home: key']);
    expect(run(key('z')).told).toEqual(['piece: key']);
    expect(run(key('q'))).toMatchObject({ told: [], whys: ['no-thread'] });
  });

  test('of a part are told to it where it is placed; what is off is passed over', () => {
    const parts = { Lamp: { size: [50, 50] as const, lines: counting('key l'), layers: { glow: { at: [0, 0, 9, 9] as const } } } };
    const placed = { type: 'placement' as const, part: 'Lamp', at: [0, 0, 50, 50] as const };
    expect(told({ parts }, { a: placed }, counting('key l')).run(key('l')).told).toEqual(['Lamp: key']);
    expect(told({}, { a: { ...layer(0, ...counting('key x')), hidden: true } }, counting('key x')).run(key('x')).told).toEqual(['home: key']);
  });

  test('what lies below a frame that keeps presses off it is not told', () => {
    const laid = (lay: string) =>
      told({
        frames: {
          home: { layers: { open: layer(0, lay) }, lines: counting('key x') },
          card: { size: [100, 100], lines: counting('key c') },
        },
      });
    const open = click(here('open'));
    const own = (lay: string) => laid(lay).run(open, key('x'));
    expect(own('click → lay over card at center').told.slice(1)).toEqual(['home: key']);
    expect(own('click → lay over card at center scrim 40 %').told.slice(1)).toEqual([]);
    expect(laid('click → lay over card at center scrim 40 %').run(open, key('c')).told.slice(1)).toEqual(['card: key']);
  });

  test('and pad buttons, which stay known', () => {
    const { run } = told({}, {}, counting('pad 3'));
    expect(run({ type: 'pad', button: 3 })).toMatchObject({ told: ['home: pad'], whys: [], run: { pad: 3 } });
    expect(run({ type: 'pad', button: 2 })).toMatchObject({ told: [], whys: ['no-thread'], run: { pad: 2 } });
  });
});

describe('the focus', () => {
  const layers = {
    a: { at: [0, 0, 50, 50] as const, lines: counting('focus', 'blur') },
    b: { at: [0, 100, 50, 50] as const, lines: counting('focus', 'blur') },
  };
  const focus = (name: string | null): RunEvent => ({ type: 'focus', layer: name === null ? null : here(name) });

  test('is told to what loses it, then to what gets it; again where it was, it is lost and come back', () => {
    const { run } = told({}, layers);
    expect(run(focus('a'), focus('b')).told).toEqual(['a: focus', 'a: blur', 'b: focus']);
    expect(run(focus('a'), focus('a')).told).toEqual(['a: focus', 'a: blur', 'a: focus']);
    expect(run(focus('a'), focus(null))).toMatchObject({ told: ['a: focus', 'a: blur'], run: { focus: null } });
    expect(run(focus(null)).told).toEqual([]);
    expect(run(focus(null), focus(null)).told).toEqual([]);
  });

  test('comes to what has to be scrolled to, and it into view', () => {
    const far = { ...layers, b: { ...layers.b, at: [0, 1500, 50, 50] as const } };
    const { run } = told({ frames: { home: { contentHeight: 2000, layers: far } } });
    expect(run(focus('b')).run.roots['home']!.scroll['']!.y).toBeGreaterThan(600);
    expect(run(focus('a')).run.roots['home']!.scroll['']).toBeUndefined();
  });

  test('that is lost by what is gone is not told', () => {
    const shown = { ...layers, c: { at: [0, 300, 50, 50] as const, lines: ['click → hide a'] } };
    const { run } = told({ frames: { home: { layers: shown }, shop: {} } });
    expect(run(focus('a'), click(here('c')), { type: 'jump', frame: 'shop' }, focus(null)).told.slice(2)).toEqual([]);
  });
});

describe('scrolling, fields, media, and what comes from outside', () => {
  test('a group that scrolls, the frame, and what does not', () => {
    const layers = {
      g: { type: 'group' as const, at: [0, 0, 50, 50] as const, scroll: 'y' as const, clip: true },
      a: { in: 'g', at: [0, 0, 50, 400] as const },
      b: { at: [100, 0, 50, 50] as const },
    };
    const { run } = told({ frames: { home: { contentHeight: 2000, layers } } });
    const scroll = (layer: string | null) => run({ type: 'scroll', layer, x: 0, y: 30 });
    expect(scroll(here('g')).run.roots['home']!.scroll[here('g')]!.y).toBe(30);
    expect(scroll(null).run.roots['home']!.scroll['']!.y).toBe(30);
    expect(scroll(here('b'))).toMatchObject({ whys: ['no-scroll'] });
    expect(scroll('nothing')).toMatchObject({ whys: ['no-scroll'] });
  });

  test('values go into fields that are there and enabled', () => {
    const field = { type: 'field' as const, at: [0, 0, 50, 20] as const, field: { kind: 'text' as const }, lines: counting('change') };
    const { run } = told({}, { a: field, b: { ...field, disabled: true }, d: { at: [0, 100, 9, 9] } });
    const enter = (name: string) => run({ type: 'value', layer: here(name), value: 'Ebb' });
    expect(enter('a')).toMatchObject({ told: ['a: change'], whys: [] });
    expect(enter('a').run.roots['home']!.values).toEqual({ [here('a')]: 'Ebb' });
    expect(enter('b')).toMatchObject({ told: [], whys: ['disabled'] });
    expect(enter('d').whys).toEqual(['not-here']);
    expect(enter('nothing').whys).toEqual(['not-here']);
  });

  test('films say that they began or ended', () => {
    const a = { type: 'video' as const, at: [0, 0, 50, 50] as const, lines: counting('media started', 'media ended') };
    const { run } = told({ frames: { home: { layers: { a } }, shop: {} } });
    const media = (what: 'started' | 'ended'): RunEvent => ({ type: 'media', layer: here('a'), what });
    const after = (...events: RunEvent[]) => run(...events).run.roots['home']!.media[here('a')];
    expect(run(media('started'), media('ended')).told).toEqual(['a: media', 'a: media']);
    expect([after(media('started')), after(media('started'), media('ended')), after(media('ended'))]).toEqual(['playing', 'paused', 'paused']);
    expect(run({ type: 'jump', frame: 'shop' }, media('started')).told).toEqual([]);
    expect(run({ type: 'media', layer: 'nothing', what: 'ended' }).told).toEqual([]);
  });

  test('variables are set from outside where the value is one they can have', () => {
    const { run } = told(
      { variables: { n: { type: 'number', initial: 0, min: 0, max: 9 } } },
      {},
      counting('variable n').map((line) => line.replace('n + 1', '9'))
    );
    expect(run({ type: 'set', variable: 'n', value: 4 })).toMatchObject({
      whys: [],
      told: ['home: variable', 'home: variable'],
      run: { variables: { n: 9 } },
    });
    expect(run({ type: 'set', variable: 'n', value: 'many' })).toMatchObject({ whys: ['wrong-value'], told: [] });
  });

  test('a jump leads to a frame of the piece, and to nothing else', () => {
    const { run } = told({ frames: { home: {}, shop: {} } });
    expect(run({ type: 'jump', frame: 'shop' }).run.frame).toBe('shop');
    expect(run({ type: 'jump', frame: 'nowhere' }).run.frame).toBe('home');
  });

  test('signals are told everywhere', () => {
    const { run } = told(
      { lines: counting('signal hello') },
      { a: { at: [0, 0, 9, 9], lines: counting('signal hello') } },
      counting('signal hello', 'signal bye')
    );
    expect(run({ type: 'signal', signal: 'hello' }).told.sort()).toEqual(['a: signal', 'home: signal', 'piece: signal']);
  });
});

describe('what happens next by itself', () => {
  test('is the first that is due: a timer before steps that wait, and those before a playhead', () => {
    const { program, run } = told({
      fps: 10,
      frames: {
        home: { timeline: { length: 20, labels: { A: [0, 'go on'], B: [5, 'loop'] } }, lines: counting('after 2 s'), layers: {} },
        still: {},
      },
    });
    expect(nextDeadline(program, start(program)!)).toBe(500);
    expect(isPlaying(program, start(program)!)).toBe(true);
    expect(isPlaying(program, start(program, 'still')!)).toBe(false);
    expect(nextDeadline(program, start(program, 'still')!)).toBeNull();
    expect(run({ type: 'wait', ms: 2100 }).told).toEqual(['home: after']);
    expect(run({ type: 'wait', ms: -5 }).run.clock).toBe(0);
    const waits = told({}, { a: { at: [0, 0, 50, 50], lines: ['click → wait 300 ms; set n to 5'] } });
    const waiting = waits.run(click(here('a'))).run;
    expect(nextDeadline(waits.program, waiting)).toBe(300);
    expect(waits.from(waiting, { type: 'wait', ms: 300 }).run.variables['n']).toBe(5);
    expect(waits.from(waiting, { type: 'wait', ms: 299 }).run.variables['n']).toBeUndefined();
  });

  test('a press that is held comes to a long press when its time has come', () => {
    const { program, run, from } = told({}, { a: { at: [0, 0, 50, 50], lines: counting('long press 500 ms', 'click') } });
    const held = run({ type: 'press', x: 5, y: 5 }).run;
    expect(nextDeadline(program, held)).toBe(500);
    expect(from(held, { type: 'wait', ms: 500 }).told).toEqual(['a: long press']);
    // Then letting go is no click.
    expect(from(held, { type: 'wait', ms: 500 }, { type: 'release', x: 5, y: 5 }).told).toEqual(['a: long press']);
    expect(from(held, { type: 'release', x: 5, y: 5 }).told).toEqual(['a: click']);
    const moved = from(held, { type: 'move', x: 40, y: 5 }).run;
    expect(nextDeadline(program, moved)).toBeNull();
  });

  test('a piece that sets itself off without end is waited for no longer than a while', () => {
    const { run } = told({}, {}, ['after 1 ms → go to home']);
    expect(run({ type: 'wait', ms: 50 }).run.clock).toBe(50);
  });
});
