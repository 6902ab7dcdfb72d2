import { expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import { framesOf, statesOf } from '../piece/piece.ts';
import { compose } from '../testing/index.ts';
import { toWalkThrough } from './walk-through.ts';

const piece = compose({
  variables: { Seats: { type: 'number', initial: 0 } },
  parts: { Card: { size: [100, 40], layers: { More: { at: [60, 0, 40, 40], lines: ['click → go to Pay'] } } } },
  sheets: { Bar: { layers: { Help: { at: [0, 0, 44, 44], lines: ['click → go to Home'] } }, lines: ['key H → go to Home'] } },
  frames: {
    Home: {
      size: [300, 200],
      over: ['Bar'],
      states: { Calm: {}, Storm: { Off: { hidden: false } } },
      layers: {
        Low: { at: [10, 120, 80, 44], lines: ['click → if Seats > 0 → go to Pay; otherwise → go to Home'] },
        'Up <b>': { at: [10, 60, 80, 44], lines: ['click → go to Pay'] },
        Off: { at: [100, 60, 80, 44], hidden: true, lines: ['click → set Seats to 2'] },
        Plain: { at: [100, 120, 20, 20] },
        Card: { at: [200, 10, 100, 40], type: 'placement', part: 'Card' },
      },
      lines: ['after 2 s → go to Pay'],
    },
    Pay: { size: [300, 200], layers: {} },
  },
});
const program = compile(piece);
const [home, pay] = framesOf(piece);
const storm = statesOf(home!).find(({ name }) => name === 'Storm')!.id;
const frame = (id: string, title: string, state: string | null = null) => ({ frame: id, title, state, picture: 'data:image/png;base64,AA==' });
const page = toWalkThrough(
  program,
  [frame(home!.id, 'Home Calm'), frame(home!.id, 'Home Storm', storm), frame(pay!.id, 'Pay')],
  'from the pier, 30 November'
);
const sections = [...page.matchAll(/<section class="frame"[^]*?<\/section>/g)].map(([text]) => text);
const heads = (section: string) => [...section.matchAll(/<h3>(.*?)<\/h3>/g)].map(([, text]) => text!.replace(/<[^>]+>/g, ''));

test('every area is numbered from above to below, and stands in the picture as often as beside it', () => {
  expect(sections).toHaveLength(3);
  expect(heads(sections[0]!)).toEqual([
    '1 Help',
    '2 More',
    '3 Up &#60;b&#62;',
    '4 Low',
    'Off (not seen in this picture)',
    'The frame itself',
    'The sheet Bar',
  ]);
  expect(heads(sections[1]!)).toEqual(['1 Help', '2 More', '3 Up &#60;b&#62;', '4 Off', '5 Low', 'The frame itself', 'The sheet Bar']);
  for (const section of sections) expect(section.match(/<rect /g)?.length ?? 0).toBe(section.match(/<b>/g)?.length ?? 0);
  expect(sections[0]).toContain('<rect x="260" y="10" width="40" height="40"');
});

test('what is noted of a frame stands before what it does, as it was written', () => {
  const noted = { ...piece, scenes: piece.scenes.set(pay!.id, { ...pay!, note: 'Two <lines>\nof it' }) };
  const printed = toWalkThrough(compile(noted), [frame(home!.id, 'Home'), frame(pay!.id, 'Pay')], 'now');
  expect(printed.match(/<h3>Note<\/h3>/g)).toHaveLength(1);
  expect(printed).toContain('<p class="note">Two &#60;lines&#62;\nof it</p>');
});

test('threads are said as they are written, with where the frames stand that they lead to', () => {
  expect(sections[0]).toContain(
    'click → if Seats &#62; 0 → go to Pay; otherwise → go to Home <span class="soft">(<a href="#f3">Pay is 3</a>)</span>'
  );
  expect(sections[0]).toContain('after 2 s → go to Pay');
  expect(sections[2]).toContain('Nothing can be done on its layers.');
  expect(page).toContain('from the pier, 30 November');
  for (const [, place] of page.matchAll(/href="#f(\d+)"/g)) expect(page).toContain(`id="f${place}"`);
});
