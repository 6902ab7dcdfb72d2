import { expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { generator } from '../testing/large.ts';
import { cleanPiece } from '../testing/planter/clean.ts';
import { faults } from '../testing/planter/faults.ts';
import { judgePlanted, type Judged } from '../testing/planter/plant.ts';
import { timesOver } from '../testing/runs.ts';
import { audit } from './audit.ts';
import { rules } from './rules/index.ts';

/** What is planted in clean pieces is found, and nothing else is said. */

test('of pieces with nothing wrong in them nothing is said', () => {
  for (let seed = 0; seed < timesOver(6); seed++)
    expect(audit(compile(compose(cleanPiece(generator(seed))))).findings.map(({ rule, sentence }) => `${rule}: ${sentence}`)).toEqual([]);
});

test('there is a fault to plant for every rule', () => {
  expect(Object.keys(faults).sort()).toEqual(rules.map(({ id }) => id).sort());
});

test.each(Object.keys(faults))('%s: what is planted is found, with routes that lead there, and nothing is said besides', (rule) => {
  for (let way = 0; way < faults[rule]!.length * timesOver(1); way++) {
    // Not every piece has a place for every fault.
    let judged: Judged | null = null;
    for (let seed = 7; !judged && seed < 30; seed++) judged = judgePlanted(rule, way, generator(seed + way * 31));
    const told = judged?.false.map((one) => `${one.rule}: ${one.sentence}`);
    expect([judged?.told !== undefined, told, judged?.lost]).toEqual([true, [], []]);
  }
});
