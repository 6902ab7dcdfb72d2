import { expect, test } from 'vitest';
import { compose, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { audit } from './audit.ts';
import { compareVersions } from './compare.ts';

const button = (y: number, ...lines: string[]) => ({
  at: [0, y, 100, 60] as const,
  text: 'Go',
  looks: { hover: { style: { fill: '#eeeeee' } } },
  lines,
});

const harbour = (change: (frames: Record<string, NonNullable<ComposeSpec['frames'][string]>>) => void = () => {}): ComposeSpec => {
  const frames: Record<string, NonNullable<ComposeSpec['frames'][string]>> = {
    home: { layers: { on: button(0, 'click → go to shop'), help: button(100, 'click → go to help') } },
    shop: { layers: { pay: button(0, 'click → go to done'), back: button(100, 'click → go to home') } },
    done: { layers: { again: button(0, 'click → go to home') } },
    help: { layers: { back: button(0, 'click → go to home') } },
  };
  change(frames);
  return { frames };
};

function changes(before: ComposeSpec, after: ComposeSpec, maxStates?: number): string[] {
  const [a, b] = [before, after].map((spec) => {
    const program = compile(compose(spec));
    return { program, audit: audit(program, maxStates === undefined ? {} : { maxStates }) };
  });
  return compareVersions(a!, b!).map(({ kind, sentence }) => `${kind}: ${sentence}`);
}

test('the same does the same', () => {
  expect(changes(harbour(), harbour())).toEqual([]);
});

test('ways that are longer, shorter, lead elsewhere; frames and branches that come and go; loose ends that are new and mended', () => {
  const moved = harbour((frames) => {
    frames['home'] = { layers: { on: button(0, 'click → go to help'), help: button(100, 'click → go to done') } };
    frames['help'] = { layers: { back: button(0, 'click → go to shop') } };
  });
  expect(changes(harbour(), moved).sort()).toEqual([
    'leads elsewhere: The way that led to done now leads to help.',
    'leads elsewhere: The way that led to help now leads to done.',
    'leads elsewhere: The way that led to shop now leads to help.',
    'longer: shop takes 1 step more (2 instead of 1).',
    'shorter: done takes 1 step less (1 instead of 2).',
  ]);
  const off = harbour((frames) => {
    frames['home'] = { layers: { on: button(0, 'click → go to shop'), help: button(100) } };
  });
  const lost = changes(harbour(), off);
  expect(lost).toContain('not reached: help can no longer be reached.');
  expect(lost).toContain('does not fire: help: “click → go to help” is gone.');
  expect(lost.filter((line) => line.startsWith('new loose end'))).toHaveLength(2);
  const back = changes(off, harbour());
  expect(back).toContain('reached: help can be reached now.');
  expect(back.filter((line) => line.startsWith('mended'))).toHaveLength(2);
  const more = harbour((frames) => {
    frames['tips'] = { layers: { back: button(0, 'click → go to home') } };
    frames['help'] = { layers: { back: button(0, 'click → go to tips') } };
  });
  expect(changes(harbour(), more)).toContain('reached: tips is new, and can be reached.');
});

test('of what was not walked to its end nothing is said to be gone', () => {
  const off = harbour((frames) => {
    frames['home'] = { layers: { on: button(0, 'click → go to shop'), help: button(100) } };
  });
  expect(changes(harbour(), off, 1).filter((line) => line.startsWith('not reached') || line.startsWith('does not fire'))).toEqual([]);
});
