import { expect, test } from 'vitest';
import type { Finding } from '@zany/core';
import { pillWords } from './pill-words';

const finding = (severity: Finding['severity']): Finding => ({ id: severity, rule: 'r', severity, place: { scene: null }, title: '', sentence: '' });

test('the pill claims only what was walked', () => {
  const say = (findings: Finding[], cut: string | null, isCurrent = true) => pillWords({ findings, cut, isCurrent });
  expect(pillWords(null)).toMatchObject({ text: 'walking…', tone: 'walking' });
  expect(say([], null)).toMatchObject({ text: 'no loose end', tone: 'clean' });
  expect(say([], 'stopped at 3000 states')).toMatchObject({ text: 'not all walked', tone: 'part' });
  expect(say([], 'stopped at 3000 states').meaning).toContain('stopped at 3000 states');
  expect(say([finding('look')], 'stopped at 3000 states')).toMatchObject({
    text: '1 loose end · not all walked',
    brief: '1 loose end · in part',
    tone: 'part',
  });
  expect(say([finding('must'), finding('look')], null)).toMatchObject({ text: '2 loose ends', meaning: '1 must be fixed. ', tone: 'must' });
  expect(say([finding('look')], null, false)).toMatchObject({ text: '1 loose end · walking…', tone: 'walking' });
  for (const cut of [null, 'x']) for (const current of [true, false]) if (cut || !current) expect(say([], cut, current).tone).not.toBe('clean');
});
