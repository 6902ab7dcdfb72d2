import { strToU8 } from 'fflate';
import { describe, expect, test } from 'vitest';
import { apply } from '../../edit/apply.ts';
import { printLine } from '../../lines/line.ts';
import { scopeFor } from '../../lines/scope.ts';
import { emptyPiece, framesOf, layersUnder, threadsOf, variablesOf } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { unwrap } from '../../result.ts';
import { advance, begin } from '../../run/run.ts';
import { compose } from '../../testing/index.ts';
import { toScxml } from '../scxml.ts';
import { scxml } from './scxml.ts';

const empty = emptyPiece({ id: 'p', name: 'P', width: 390, height: 844, start: [] });
const readings = (text: string) => {
  let made = 0;
  return scxml.read(empty, strToU8(text), () => `n${++made}`, new Map());
};

function read(text: string) {
  const came = unwrap(readings(text));
  const piece = unwrap(apply(empty, came.operations)).piece;
  const lines = (owner: string) => threadsOf(piece, owner).map((thread) => printLine(thread, scopeFor(piece, thread)));
  const frames = Object.fromEntries(
    framesOf(piece).map((frame) => [
      frame.name,
      [...layersUnder(piece, frame.id, null).flatMap((layer) => lines(layer.id).map((line) => `${layer.name}: ${line}`)), ...lines(frame.id)],
    ])
  );
  return { piece, frames, left: came.left, made: came.made };
}

const chart = (inner: string, initial = '') => `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" ${initial}>${inner}</scxml>`;

describe('state charts', () => {
  test('states are frames to be drawn, with a button for each event, and their transitions in the order of the chart', () => {
    const { frames, piece, left, made } = read(
      chart(
        `<datamodel><data id="seats" expr="0"/><data id="member" expr="false"/><data id="name" expr="'Ina'"/></datamodel>
        <state id="home"><transition event="buy" cond="seats &gt; 0 &amp;&amp; !member" target="pay"/><transition event="buy" cond="seats === 0 || name == &quot;Odd&quot;" target="full"/><transition event="buy"><assign location="seats" expr="seats + 1"/></transition><transition event="key.h" target="home"/></state>
        <state id="pay"><onentry><send event="late" delay="2s"/><assign location="seats" expr="seats - 1"/></onentry><transition event="late" target="home"/><transition cond="seats &lt; 0" target="full"/></state>
        <final id="full"/>`,
        'initial="pay"'
      )
    );
    expect(frames).toEqual({
      home: [
        'buy: click → if seats > 0 and not(member) → go to pay; otherwise if seats = 0 or name = "Odd" → go to full; otherwise → set seats to seats + 1',
        'key h → go to home',
      ],
      pay: [
        'after 1 ms → set seats to seats - 1',
        'after 2 s → go to home',
        'after 1 ms → if seats < 0 → go to full',
        'variable seats → if seats < 0 → go to full',
      ],
      full: [],
    });
    expect(framesOf(piece).map(({ name, draft, ending }) => [name, draft, ending])).toEqual([
      ['home', true, undefined],
      ['pay', true, undefined],
      ['full', true, true],
    ]);
    expect(piece.head.start.map((id) => piece.scenes.get(id)!.name)).toEqual(['pay']);
    expect(variablesOf(piece, null).map(({ name, type, initial }) => [name, type, initial])).toEqual([
      ['seats', 'number', 0],
      ['member', 'yes/no', false],
      ['name', 'text', 'Ina'],
    ]);
    expect(left).toEqual([]);
    expect(made).toEqual(['3 frames', '6 threads', '3 variables']);
  });

  test('states around states hand their transitions down; what leads to one leads to where it begins', () => {
    const { frames } = read(
      chart(
        `<state id="out"><transition event="in" target="inside"/></state>
        <state id="inside" initial="b"><transition event="leave" target="out"/><transition event="go" target="out"/><state id="a"/><state id="b"><transition event="go" target="a"/></state></state>`
      )
    );
    expect(frames).toEqual({
      out: ['in: click → go to b'],
      a: ['leave: click → go to out', 'go: click → go to out'],
      b: ['go: click → go to a', 'leave: click → go to out'],
    });
  });

  test('what has no place is left by name, and nothing else with it', () => {
    const { frames, left } = read(
      chart(
        `<datamodel><data id="list" expr="[1, 2]"/></datamodel><parallel id="both"><state id="a"><onentry><script>x()</script></onentry><transition event="x" cond="In('b')" target="b"/><transition event="y" target="nowhere"/><transition event="z" target="b"/></state><state id="b"><history id="h"/></state></parallel>`
      )
    );
    expect(frames).toEqual({ a: ['z: click → go to b'], b: [] });
    expect(left).toEqual([
      'both: what goes on side by side; its states come one by one',
      'h: where one was',
      'list: what it holds is no number, text, true or false',
      "a, x: its condition (In('b'))",
      'a, y: it leads to nowhere, which is not there',
      'a: script',
    ]);
  });

  test('a chart that was written from a piece leads where the piece does', () => {
    const lines = (...to: string[]) =>
      Object.fromEntries(to.map((name, i) => [`To ${name}`, { at: [0, i * 60, 100, 50] as const, lines: [`click → go to ${name}`] }]));
    const piece = compose({
      frames: {
        Home: { layers: lines('Fares', 'Pay') },
        Fares: { layers: lines('Home'), lines: ['key p → go to Pay'] },
        Pay: { layers: lines('Home', 'Fares'), lines: ['after 3 s → go to Home'] },
      },
    });
    const before = compile(piece);
    const after = compile(read(toScxml(before).xml).piece);
    const reach = (program: typeof before) =>
      program.frames.map((frame) => {
        const { run } = begin(program, frame)!;
        const scene = program.scenes.get(frame)!;
        const clicks = scene.items
          .filter(({ threads }) => threads.length)
          .map(({ layer }) => advance(program, run, { type: 'click', layer: layer.id }).run);
        const others = [advance(program, run, { type: 'key', key: 'p' }).run, advance(program, run, { type: 'wait', ms: 3000 }).run];
        return [...clicks, ...others].map((one) => program.frames.indexOf(one.frame));
      });
    expect(reach(after)).toEqual(reach(before));
  });

  test('what is none is refused with a sentence; damaged ones are refused or can be applied', () => {
    const sentence = (text: string) => {
      const result = readings(text);
      return result.ok ? 'read' : result.error.sentence;
    };
    expect(sentence('hm')).toMatch(/^Its XML cannot be read/);
    expect(sentence('<svg/>')).toBe('This is no state chart: it does not begin with scxml.');
    expect(sentence(chart(''))).toBe('This state chart has no states.');
    const good = chart(
      '<datamodel><data id="n" expr="1"/></datamodel><state id="a"><transition event="x" cond="n > 0" target="b"/></state><state id="b"/>'
    );
    let seed = 11;
    const random = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;
    let refused = 0;
    for (let i = 0; i < 1000; i++) {
      const at = random(good.length);
      const result = readings(good.slice(0, at) + String.fromCharCode(32 + random(95)) + good.slice(at + 1));
      if (!result.ok) refused++;
      else expect(apply(empty, result.value.operations)).toMatchObject({ ok: true });
    }
    expect(refused).toBeGreaterThan(100);
    expect(refused).toBeLessThan(1000);
  });
});
