import { expect, test } from 'vitest';
import { compose, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { playwrightTests } from './exports/playwright.ts';
import { walkScripts } from './walk-script.ts';

const box = (x: number, ...lines: string[]) => ({ at: [x, 10, 80, 60] as const, text: 'Go', lines });
const home = box(10, 'click → go to quay');

const quay = (lines: string[] = []): ComposeSpec => ({
  size: [300, 400],
  frames: {
    quay: {
      states: { Up: {}, Down: {} },
      layers: { bell: box(10, 'press → put this in Down', 'release → put this in Up'), ask: box(210, 'press → lay closing over sure at bottom') },
      lines: ['after 1 s in Down → go to rung', ...lines],
    },
    sure: { size: [300, 100], layers: { yes: box(10, 'click → go to rung') } },
    rung: { layers: { home } },
  },
});

const words = (spec: ComposeSpec) => walkScripts(compile(compose(spec))).scripts.map(({ steps }) => steps.map((step) => step.words));

test('a finger is lifted, where nothing listens, before it presses again, though what it held is gone', () => {
  expect(walkScripts(compile(compose(quay()))).leftOut).toEqual([]);
  expect(words(quay())).toEqual([
    [
      'click bell',
      'click bell',
      'click ask',
      ...['press bell and hold', 'wait 1000 ms', 'let go elsewhere', 'click home'],
      ...['press ask and hold', 'let go elsewhere', 'click yes'],
    ],
  ]);
  const written = playwrightTests(compose(quay()));
  expect(written).toContain('await pressDown(page, layer(page, "quay_bell"));');
  expect(written).toMatch(/await letGo\(page, frame\(page, "quay"\), 0\.\d+, 0\.\d+\);/);
});

test('where a swipe is waited for, what is held is let go so late that it is none', () => {
  const counted: ComposeSpec = {
    variables: { n: { type: 'number', initial: 0, min: 0, max: 2 } },
    frames: {
      quay: {
        layers: { a: box(10, 'press → set n to n + 1', 'click → set n to 0') },
        lines: ['key k → if n = 2 → go to rung', 'swipe left → go to rung'],
      },
      rung: { layers: { home: box(10, 'click → set n to 0; go to quay') } },
    },
  };
  const [all] = words(counted);
  expect(all).toContain('let go elsewhere');
  expect(all!.filter((_, i) => all![i + 1] === 'let go elsewhere')).toEqual(['wait 801 ms']);
});
