import { expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { css, sheetOf } from './css.ts';

/** In the browser it is held against the player's own values; here is what it says, and what it says that it leaves out. */

const piece = compose({
  name: 'Tide */ table',
  fps: 25,
  parts: { Gull: { size: [80, 60], layers: { Wing: { at: [0, 0, 10, 10] } } } },
  frames: {
    'Low tide': {
      size: [320, 240],
      timeline: {
        length: 50,
        loop: true,
        labels: { Ebb: [0, 'hold'] },
        tracks: [
          [
            'Boat',
            'x',
            [
              [10, 5],
              [20, 80, 'spring(0.3)'],
              [40, 10],
            ],
          ],
          [
            'Boat',
            'fill',
            [
              [0, '#0b7a75', 'cubic-bezier(0.3, -0.4, 0.6, 1.4)'],
              [49, '#ffffff00'],
            ],
          ],
          [
            'Words',
            'typed',
            [
              [0, 0],
              [20, 1],
            ],
          ],
        ],
        spans: [['Boat', 0, 30]],
      },
      layers: {
        Pier: { type: 'group', at: [10, 20, 200, 100] },
        Boat: { in: 'Pier', at: [5, 5, 40, 20] },
        Words: { type: 'text', text: 'Low', at: [0, 200, 80, 20] },
        '2 Boat': { at: [0, 0, 20, 20], looks: { hover: { style: { fill: '#000000' }, text: 'Over', ms: 80, easing: 'ease-out' } } },
        Still: { at: [0, 0, 20, 20] },
      },
    },
    'Low tide 2': { name: 'Low tide', layers: { Boat: { at: [0, 0, 20, 20], looks: { press: { pose: { scale: 0.9 } } } } } },
  },
});

const USABLE = ':not(:disabled, [aria-disabled="true"])';

test('layers that move or have looks are said, with the groups that they stand in, and each name once', () => {
  const text = sheetOf(piece);
  expect(text).toContain(
    '@keyframes low-tide-boat-left {\n  0% { left: 5px; }\n  20% { left: 5px; }\n  40% { left: 80px; animation-timing-function: linear(0, '
  );
  expect(text).toContain('  80% { left: 10px; }\n  100% { left: 10px; }\n}');
  // A colour goes no further than where it ends, whatever its easing does.
  const eased = /@keyframes low-tide-boat-background-color \{\n.*linear\(([^)]*)\)/.exec(text)![1]!.split(', ').map(Number);
  expect([Math.min(...eased), Math.max(...eased)]).toEqual([0, 1]);
  expect(text).toContain('.low-tide .boat {');
  expect(text).toContain(
    'animation: low-tide-boat-left 2s both infinite linear, low-tide-boat-background-color 2s both infinite linear, low-tide-boat-there'
  );
  expect(text).toContain('62% { visibility: hidden; animation-timing-function: step-end; }');
  expect(text).toContain('.low-tide .pier {');
  expect(text).toContain(`.low-tide .n2-boat:hover${USABLE} {\n  background-color: oklab(0 0 0);\n  transition: all 80ms ease-out;\n}`);
  expect(text).toContain(`.low-tide-2 .boat:active${USABLE} {\n  scale: 0.9;`);
  expect(text).not.toContain('.still');
});

test('what it cannot say is named before, and in the file, in a comment that nothing ends', () => {
  const left = css.omits!(piece);
  expect(left).toEqual([
    'keys for the typed of Words on Low tide',
    'the sections of Low tide: its time goes through from the beginning to the end',
    'the text in the look hover of 2 Boat on Low tide',
  ]);
  const [note] = sheetOf(piece).split('*/');
  for (const one of left) expect(note).toContain(one);
  expect(note).toContain('Tide * / table');
  expect(sheetOf(compose({ frames: { Plan: {} } }))).toBe('/* Test piece: scenes and layers are classes of the same names. */\n');
});

test('no two scenes, and no two layers of one, have one class, whatever their names end with', () => {
  const looks = { hover: { style: { fill: '#000000' } } };
  const layers = { a: { at: [0, 0, 10, 10] as const, looks } };
  const text = sheetOf(compose({ frames: { x: { name: 'Quay', layers }, y: { name: 'Quay', layers }, z: { name: 'Quay 2', layers } } }));
  expect(text.match(/^\.quay\S* \{/gm)).toEqual(['.quay {', '.quay-2 {', '.quay-3 {']);
});

test('looks win over each other as in the player', () => {
  const fill = (color: string) => ({ style: { fill: color } });
  const looks = { hover: fill('#111111'), press: fill('#222222'), focus: fill('#333333'), selected: fill('#444444'), disabled: fill('#555555') };
  const text = sheetOf(compose({ frames: { Plan: { layers: { Go: { at: [0, 0, 10, 10], looks } } } } }));
  const at = ['[aria-selected', ':hover', ':active', ':focus-visible', ':is(:disabled'].map((one) => text.indexOf(one));
  expect(at).toEqual([...at].sort((a, b) => a - b));
});

test('words are set as the player sets them, with the typefaces named whose files it does not have', () => {
  const looks = { hover: { letters: { weight: 700, leading: 1.1 } } };
  const words = compose({
    frames: {
      Plan: {
        layers: {
          Go: { at: [0, 0, 90, 40], text: 'Go', looks },
          Tide: { type: 'text', at: [0, 60, 90, 40], text: 'Low', letters: { family: 'Literata', place: 'bottom', align: 'right', size: 20 }, looks },
          Bare: { at: [0, 120, 10, 10], looks: { hover: { style: { fill: '#000000' } } } },
        },
      },
    },
  });
  const text = sheetOf(words);
  const rule = (selector: string) => text.slice(text.indexOf(`${selector} {`)).split('}')[0]!;
  for (const one of [
    '"Atkinson Hyperlegible Next", sans-serif',
    'font-size: 16px',
    'font-weight: 400',
    'line-height: 1.3',
    'text-align: center',
    'align-content: center',
  ])
    expect(rule('.go')).toContain(one);
  for (const one of ['font-family: "Literata", serif', 'font-size: 20px', 'text-align: right', 'align-content: end'])
    expect(rule('.tide')).toContain(one);
  expect(rule(`.tide:hover${USABLE}`)).toMatch(/font-weight: 700;\n {2}line-height: 1.1;/);
  expect(rule('.bare')).not.toMatch(/font|text-align|color: oklab\(0\.\d+ 0\.0/);
  expect(css.omits!(words)).toEqual(['the files of its typefaces: Atkinson Hyperlegible Next and Literata']);
});
