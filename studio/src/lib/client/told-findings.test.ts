import { audit, compile, type Finding } from '@zany/core';
import { compose, type ComposeSpec } from '@zany/core/testing';
import { expect, test } from 'vitest';
import { FindingsHearer, FindingsTeller, type Told } from './told-findings';

const found = (...frames: string[]): readonly Finding[] =>
  audit(
    compile(
      compose({
        frames: Object.fromEntries(frames.map((name) => [name, { layers: { Go: { at: [20, 20, 200, 60], lines: ['click → set n to n + 1'] } } }])),
        variables: { n: { type: 'number', initial: 0, min: 0, max: 3 } },
      } satisfies ComposeSpec)
    )
  ).findings;

const anew = (told: readonly Told[]) => told.filter((one) => typeof one !== 'number');

/** As messages between a worker and a page are. */
const handedOver = (told: readonly Told[]) => structuredClone(told) as Told[];

test('what is heard is what was found, whatever was found before; only what is otherwise is told anew', () => {
  const [teller, hearer] = [new FindingsTeller(), new FindingsHearer()];
  const rows = [found('Plan'), found('Plan', 'Pay'), found('Pay', 'Plan', 'Done'), [], found('Plan'), found('Plan')];
  expect(rows[1]!.length).toBeGreaterThan(rows[0]!.length);
  rows.forEach((findings) => expect(hearer.hear(handedOver(teller.tell(findings)))).toEqual(findings));
  expect(anew(teller.tell(found('Plan')))).toEqual([]);
});

test('one that says something else now is told anew, under the same id, and the others keep being the same objects', () => {
  const [teller, hearer] = [new FindingsTeller(), new FindingsHearer()];
  const findings = found('Plan', 'Pay');
  const before = hearer.hear(handedOver(teller.tell(findings)));
  const changed = findings.map((finding, i) => (i === 1 ? { ...finding, sentence: 'Something else now.' } : finding)).reverse();
  const told = teller.tell(changed);
  expect(anew(told)).toHaveLength(1);
  const after = hearer.hear(handedOver(told));
  expect(after).toEqual(changed);
  expect(after.at(-1)).toBe(before[0]);
});

test('findings of one id, one after the other, are both heard', () => {
  const [teller, hearer] = [new FindingsTeller(), new FindingsHearer()];
  const [one] = found('Plan');
  const twice = [one!, { ...one!, title: 'The other' }];
  for (let i = 0; i < 3; i++) expect(hearer.hear(handedOver(teller.tell(twice)))).toEqual(twice);
});
