import { parseLine, printLine, scopeOf } from '@zany/core';
import { build, click, go, open } from '@zany/core/testing';
import { expect, test } from 'vitest';
import { lineOf, plusStep, withoutStep, withStep } from './cue-edit';

const piece = build({ home: { layers: { buy: { threads: [click(go('pay'), open('https://kittiwake.example/'))] } } }, pay: {} });
const thread = piece.threads.get('buy-t0')!;
const scope = scopeOf(piece);

test('what chips change is what the line says', () => {
  const push = { type: 'push', direction: 'up', ms: 200, easing: 'ease' } as const;
  expect(printLine(withStep(thread, 0, 0, go('home', push)), scope)).toBe(
    'click → go to home · push up 200 ms ease; open https://kittiwake.example/ in new tab'
  );
  expect(printLine(withoutStep(thread, 0, 0), scope)).toBe('click → open https://kittiwake.example/ in new tab');
  expect(printLine(plusStep(thread, 0, go('back')), scope)).toBe('click → go to pay; open https://kittiwake.example/ in new tab; go to back');
});

test('a line and its thread are the same thing', () => {
  const parsed = parseLine(printLine(lineOf(thread), scope), scope);
  expect(parsed.ok && parsed.value).toEqual(lineOf(thread));
});
