import { describe, expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec, type TimelineSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import { compile } from '../program/compile.ts';
import { unwrap } from '../result.ts';
import type { Piece } from '../piece/piece.ts';
import { replay, start } from './run.ts';
import type { Effect, RunEvent } from './state.ts';

/** Playheads, and media beside them: what begins as it comes into view, stops as it goes, and what is reached on the way. */

const key = (name: string): RunEvent => ({ type: 'key', key: name });
const wait = (ms: number): RunEvent => ({ type: 'wait', ms });

/** At 24 frames a second; a moment after the frame has come. */
const frames = (n: number) => wait(Math.ceil((n * 1000) / 24) + 1);

function play(of: ComposeSpec | Piece, ...events: RunEvent[]) {
  const program = compile('head' in of ? of : compose(of));
  const begun = start(program)!;
  const { run, reports } = replay(program, begun, events);
  const effects = reports.flatMap((report) => report.effects);
  const home = run.roots['home']!;
  return {
    run,
    home,
    head: home.heads[''],
    clip: home.heads[id('home', 'clip')],
    media: home.media,
    /** What media were told, in order. */
    told: effects.flatMap((effect: Effect) => (effect.type === 'media' ? [`${effect.do} ${effect.node.split('_').at(-1)}`] : [])),
    sent: effects.flatMap((effect) => (effect.type === 'signal' ? [effect.signal] : [])),
    causes: reports.flatMap(({ cause }) => cause ?? []),
  };
}

const film = { type: 'video' as const, at: [0, 0, 90, 60] as const };

describe('media', () => {
  const shown: ComposeSpec = {
    frames: {
      home: {
        layers: {
          film: { ...film, hidden: true, media: { autoplay: true }, lines: ['media started → send started'] },
          still: { ...film, hidden: true },
        },
        lines: ['key s → show film; show still', 'key h → hide film; hide still', 'key p → play film', 'key x → pause film'],
      },
    },
  };

  test('what plays by itself begins as it comes into view, stops as it goes, and begins again; what does not waits to be played', () => {
    expect(play(shown)).toMatchObject({ media: {}, told: [] });
    expect(play(shown, key('s'))).toMatchObject({ media: { [id('home', 'film')]: 'playing' }, told: ['play film'], sent: ['started'] });
    expect(play(shown, key('s'), key('h'))).toMatchObject({ media: { [id('home', 'film')]: 'paused' }, told: ['play film', 'pause film'] });
    expect(play(shown, key('s'), key('h'), key('s')).told).toEqual(['play film', 'pause film', 'play film']);
  });

  test('what was stopped is not stopped again as it goes out of view', () => {
    expect(play(shown, key('s'), key('x'), key('h')).told).toEqual(['play film', 'pause film']);
  });

  test('steps on a group play and stop all media in it, however deep, and begin them anew; what is no media stands', () => {
    const group: ComposeSpec = {
      frames: {
        home: {
          layers: {
            all: { type: 'group' },
            inner: { type: 'group', in: 'all' },
            film: { ...film, in: 'inner' },
            bell: { type: 'sound', at: [0, 100, 9, 9], in: 'all' },
            box: { at: [0, 200, 9, 9], in: 'all' },
          },
          lines: ['key p → play all', 'key s → start over all', 'key x → pause all'],
        },
      },
    };
    const both = { [id('home', 'film')]: 'playing', [id('home', 'bell')]: 'playing' };
    expect(play(group, key('p'))).toMatchObject({ media: both, told: ['play film', 'play bell'] });
    expect(Object.keys(play(group, key('p')).media)).toHaveLength(2);
    expect(play(group, key('p'), key('x')).told).toEqual(['play film', 'play bell', 'pause film', 'pause bell']);
    expect(play(group, key('s')).told).toEqual(['rewind film', 'play film', 'rewind bell', 'play bell']);
  });

  test('cues on a timeline play, stop and rewind media at their moments, also in a part', () => {
    const cues: TimelineSpec['cues'] = [
      [0, 'film', 'play'],
      [10, 'film', 'pause'],
      [20, 'film', 'start over'],
    ];
    const own: ComposeSpec = { frames: { home: { timeline: { length: 40, cues }, layers: { film } } } };
    expect(play(own, frames(1)).media).toEqual({ [id('home', 'film')]: 'playing' });
    expect(play(own, frames(11))).toMatchObject({ media: { [id('home', 'film')]: 'paused' }, told: ['pause film'] });
    expect(play(own, frames(21)).told).toEqual(['pause film', 'rewind film', 'play film']);
    const placed: ComposeSpec = {
      parts: { Clip: { timeline: { length: 40, cues }, layers: { film } } },
      frames: { home: { layers: { clip: { type: 'placement', part: 'Clip', at: [0, 0, 90, 60] } } } },
    };
    expect(play(placed, frames(21)).told).toEqual(['pause film', 'rewind film', 'play film']);
  });

  test('a cue on a layer that is gone does nothing, and the timeline goes on', () => {
    const own = compose({ frames: { home: { timeline: { length: 40, cues: [[5, 'film', 'play']] }, layers: { film, box: {} } } } });
    const piece = unwrap(apply(own, [{ op: 'remove', table: 'layers', id: id('home', 'film') }])).piece;
    const withCue = { ...piece, scenes: piece.scenes.set('home', { ...piece.scenes.get('home')!, timeline: own.scenes.get('home')!.timeline! }) };
    expect(play(withCue, frames(12))).toMatchObject({ told: [], head: { at: 5, playing: true } });
  });
});

describe('playheads', () => {
  const labels: TimelineSpec['labels'] = { In: [0, 'hold'], Out: [10, 'go on'], End: [20, 'hold'] };
  const own = (timeline: Partial<TimelineSpec> = {}, ...lines: string[]): ComposeSpec => ({
    frames: { home: { timeline: { length: 30, labels, ...timeline }, lines, layers: {} } },
  });

  test('a section that holds stops at its last frame; playing on goes over it, and after the last from the beginning', () => {
    const spec: ComposeSpec = {
      parts: { Clip: { timeline: { length: 30, labels }, layers: { box: {} } } },
      frames: {
        home: {
          layers: { clip: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9] } },
          lines: ['key p → play clip', 'key x → pause clip', 'key s → start over clip'],
        },
      },
    };
    expect(play(spec, frames(40)).clip).toMatchObject({ at: 9, playing: false });
    expect(play(spec, frames(40), key('p')).clip).toMatchObject({ at: 10, playing: true });
    expect(play(spec, frames(40), key('p'), frames(40)).clip).toMatchObject({ at: 29, playing: false });
    expect(play(spec, frames(40), key('p'), frames(40), key('p')).clip).toMatchObject({ at: 0, playing: true });
    // What was stopped on the way goes on from there, and what is stopped twice stands where it stood.
    expect(play(spec, frames(4), key('x'), wait(900), key('x'), wait(900), key('p')).clip).toMatchObject({ at: 4, playing: true, visits: 1 });
    // What plays goes on playing, and begins anew where it is told to.
    expect(play(spec, frames(4), key('p')).clip).toMatchObject({ at: 0, since: 0, playing: true });
    expect(play(spec, frames(4), key('s')).clip).toMatchObject({ at: 0, since: 168, playing: true, visits: 1 });
  });

  test('going on from where it was stopped reaches no label again; beginning anew there does, and so does going over the end of a section', () => {
    const spec: ComposeSpec = {
      parts: { Clip: { timeline: { length: 30, labels }, lines: ['label In → send in', 'label Out → send out'], layers: { box: {} } } },
      frames: {
        home: {
          layers: { clip: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9] } },
          lines: ['key p → play clip', 'key x → pause clip', 'key s → start over clip'],
        },
      },
    };
    expect(play(spec, key('x'), key('p')).sent).toEqual([]);
    expect(play(spec, key('x'), key('s')).sent).toEqual(['in']);
    expect(play(spec, frames(40), key('p')).sent).toEqual(['out']);
  });

  test('labels are reached once each, on the way and by a jump, by who waits in that very scene', () => {
    const spec = own(
      { labels: { ...labels, In: [0, 'go on'] } },
      'label Out → send out',
      'label In → send in',
      'key o → show label Out',
      'key i → play from In'
    );
    expect(play(spec, frames(12)).sent).toEqual(['out']);
    expect(play(spec, frames(12)).causes).toContain('reached Out');
    expect(play(spec, key('o')).sent).toEqual(['out']);
    expect(play(spec, key('o'), key('i')).sent).toEqual(['out', 'in']);
    const two: ComposeSpec = {
      parts: { Clip: { timeline: { length: 30, labels: { Out: [10, 'hold'] } }, lines: ['label Out → send clip'], layers: { box: {} } } },
      frames: {
        home: {
          layers: {
            clip: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9] },
            late: { type: 'placement', part: 'Clip', at: [20, 0, 9, 9], hidden: true },
          },
          lines: ['key s → show late'],
        },
      },
    };
    expect(play(two, frames(12)).sent).toEqual(['clip']);
    expect(play(two, frames(6), key('s'), frames(6)).sent).toEqual(['clip']);
    expect(play(two, frames(6), key('s'), frames(12)).sent).toEqual(['clip', 'clip']);
  });

  test('an ending goes to its label, in rounds, or from the beginning where all of it loops; to one that is gone it holds', () => {
    const to = (ending: NonNullable<TimelineSpec['labels']>[string][1], more: Partial<TimelineSpec> = {}) =>
      own({ labels: { In: [0, 'go on'], Out: [10, ending] }, ...more });
    expect(play(to({ goTo: 'In' }), frames(42)).head).toMatchObject({ at: 10, playing: true });
    expect(play(to({ goTo: 'In' }), frames(30)).head).toMatchObject({ at: 0, playing: true });
    expect(play(to({ rounds: 2 }), frames(30)).head).toMatchObject({ at: 10, playing: true, rounds: 1 });
    expect(play(to({ rounds: 2 }), frames(51)).head).toMatchObject({ at: 29, playing: false });
    expect(play(to('loop'), frames(200)).head).toMatchObject({ at: 10, playing: true });
    expect(play(to('go on'), frames(30)).head).toMatchObject({ at: 29, playing: false });
    expect(play(to('go on', { loop: true }), frames(30)).head).toMatchObject({ at: 0, playing: true });
    const gone = compose(to({ goTo: 'In' }));
    const scene = gone.scenes.get('home')!;
    const without = Object.fromEntries(Object.entries(scene.timeline!.labels!).filter(([, { name }]) => name !== 'In'));
    const piece = { ...gone, scenes: gone.scenes.set('home', { ...scene, timeline: { ...scene.timeline!, labels: without } }) };
    expect(play(piece, frames(40)).head).toMatchObject({ at: 29, playing: false });
  });

  test('what waits for a section waits for that very one', () => {
    const spec: ComposeSpec = {
      parts: { Clip: { timeline: { length: 10, autoplay: false }, layers: { box: {} } } },
      frames: {
        home: {
          timeline: { length: 30, labels: { Short: [0, 'hold'], Long: [5, 'hold'] } },
          layers: { clip: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9] } },
          lines: ['key c → play clip; send clip', 'key l → play from Long; send long'],
        },
      },
    };
    expect(play(spec, key('c'), frames(6)).sent).toEqual([]);
    expect(play(spec, key('c'), frames(11)).sent).toEqual(['clip']);
    expect(play(spec, key('l'), key('c'), frames(11)).sent).toEqual(['clip']);
    expect(play(spec, key('l'), key('c'), frames(26)).sent).toEqual(['clip', 'long']);
  });

  test('a frame that remembers goes on from where it was left, another begins anew; reaching its first label counts once', () => {
    const spec = (onReturn: 'remember' | 'fresh'): ComposeSpec => ({
      frames: {
        home: {
          ...(onReturn === 'remember' && { onReturn }),
          timeline: { length: 100, labels: { In: [0, 'hold'] } },
          lines: ['key a → go to away', 'label In → send in'],
          layers: {},
        },
        away: { lines: ['key b → go to home'], layers: {} },
      },
    });
    expect(play(spec('remember'), frames(10), key('a'), wait(5000), key('b')).head).toMatchObject({ at: 10, playing: true });
    expect(play(spec('remember'), frames(10), key('a'), wait(5000), key('b'), frames(5)).sent).toEqual([]);
    expect(play(spec('fresh'), frames(10), key('a'), wait(5000), key('b'))).toMatchObject({ head: { at: 0, playing: true }, sent: ['in'] });
  });

  test('after going elsewhere it is the timeline there that is played on; labels of the one that was left are not there', () => {
    const timeline = (one: number): TimelineSpec => ({ length: 48, autoplay: false, labels: { one: [0, 'hold'], two: [one, 'hold'] } });
    const lines = ['key a → go to home; play on', 'key b → go to home; play from two'];
    const spec: ComposeSpec = { frames: { pier: { timeline: timeline(12), lines }, home: { timeline: timeline(24) } } };
    expect(play(spec, key('a'), wait(5000)).head).toMatchObject({ at: 23, playing: false });
    expect(play(spec, key('b'), wait(5000)).head).toMatchObject({ at: 0, playing: false });
  });

  test('a frame that is left as a round of its timeline ends is found in that round', () => {
    const timeline = { length: 48, labels: { round: [0, 'loop'], after: [24, 'hold'] } } as const;
    const home = { onReturn: 'remember' as const, timeline, lines: ['after 1 s → go to pier'] };
    const { head } = play({ frames: { home, pier: { lines: ['key b → go to home'] } } }, wait(1000), key('b'));
    expect(head).toMatchObject({ at: 23, playing: true });
  });

  test('what a placement does as it comes again: from the beginning, on from where it was, or at its end', () => {
    const spec = (reentry?: 'go on' | 'once', autoplay = true): ComposeSpec => ({
      parts: { Clip: { timeline: { length: 20, autoplay, labels: { In: [0, 'hold'] } }, lines: ['label In → send in'], layers: { box: {} } } },
      frames: {
        home: {
          layers: { clip: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9], ...(reentry && { reentry }) } },
          lines: ['key h → hide clip', 'key s → show clip'],
        },
      },
    });
    const again = [frames(8), key('h'), frames(50), key('s')];
    expect(play(spec(), ...again)).toMatchObject({ clip: { at: 0, playing: true, visits: 2 }, sent: ['in'] });
    expect(play(spec('go on'), ...again)).toMatchObject({ clip: { at: 8, playing: true, visits: 2 }, sent: [] });
    expect(play(spec('once'), ...again)).toMatchObject({ clip: { at: 19, playing: false, visits: 2 }, sent: [] });
    expect(play(spec(undefined, false), ...again).clip).toMatchObject({ at: 0, playing: false, visits: 2 });
    // While it is away it stands.
    expect(play(spec('go on'), frames(8), key('h'), frames(5)).clip).toMatchObject({ at: 8 });
  });

  test('what goes just as its section is over is at the end of that: what comes round comes round again', () => {
    const spec: ComposeSpec = {
      parts: {
        Waves: { timeline: { length: 20, labels: { In: [0, 'loop'], Out: [10, 'hold'] } }, lines: ['label In → send in'], layers: { box: {} } },
      },
      frames: {
        home: {
          layers: { clip: { type: 'placement', part: 'Waves', at: [0, 0, 9, 9], reentry: 'go on' } },
          timeline: {
            length: 30,
            spans: [
              ['clip', 0, 9],
              ['clip', 12, 29],
            ],
          },
          lines: ['key x → pause clip', 'key p → play clip'],
        },
      },
    };
    // It is there for as long as one of its rounds takes.
    expect(play(spec, frames(11)).clip).toMatchObject({ at: 9, playing: true });
    expect(play(spec, frames(12), frames(5))).toMatchObject({ clip: { at: 0, playing: true }, sent: ['in'] });
  });

  test('what is paused at the last moment of a loop without end goes round when it is played on; what has gone round goes on', () => {
    const spec = (ending: 'loop' | { rounds: number }): ComposeSpec => ({
      parts: {
        Waves: { timeline: { length: 20, labels: { In: [0, ending], Out: [10, 'hold'] } }, lines: ['label Out → send out'], layers: { box: {} } },
      },
      frames: {
        home: {
          layers: { clip: { type: 'placement', part: 'Waves', at: [0, 0, 9, 9] } },
          lines: ['key x → pause clip', 'key p → play clip'],
        },
      },
    });
    expect(play(spec('loop'), frames(9.5), key('x')).clip).toMatchObject({ at: 9, playing: false });
    expect(play(spec('loop'), frames(9.5), key('x'), key('p'), frames(5)).clip).toMatchObject({ at: 0, playing: true });
    expect(play(spec({ rounds: 2 }), frames(25)).clip).toMatchObject({ at: 9, playing: false });
    expect(play(spec({ rounds: 2 }), frames(25), key('p'))).toMatchObject({ clip: { at: 10, playing: true }, sent: ['out'] });
  });

  test('what is out of view stands, in whichever section it was', () => {
    const spec: ComposeSpec = {
      parts: { Clip: { timeline: { length: 20, labels: { In: [0, 'go on'], Out: [10, 'hold'] } }, layers: { box: {} } } },
      frames: {
        home: {
          layers: { clip: { type: 'placement', part: 'Clip', at: [0, 0, 9, 9] } },
          lines: ['key h → hide clip', 'key s → if clip.section = "In" → send in; otherwise → send out'],
        },
      },
    };
    expect(play(spec, frames(8), key('s'), key('h'), frames(50), key('s')).sent).toEqual(['in', 'in']);
    expect(play(spec, frames(12), key('s'), key('h'), frames(50), key('s')).sent).toEqual(['out', 'out']);
  });
});
