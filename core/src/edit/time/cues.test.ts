import fc from 'fast-check';
import { expect, test } from 'vitest';
import { addCue, moveCue, removeCue } from './cues.ts';
import type { Timeline } from './timeline.ts';

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};

const timeline: fc.Arbitrary<Timeline> = fc
  .array(fc.tuple(fc.constantFrom('gull', 'bell'), fc.nat(29), fc.constantFrom('play' as const, 'pause' as const, 'start over' as const)), {
    maxLength: 6,
  })
  .map((cues) => {
    const makeId = counter();
    return cues.reduce<Timeline>((all, [layer, time, what]) => addCue(all, [layer], time, what, () => `c${makeId()}`), { length: 30 });
  });

const told = ({ cues = {} }: Timeline) =>
  Object.values(cues)
    .map(({ layer, time, do: what }) => `${layer} ${time} ${what}`)
    .sort();

test('a layer has one cue at a moment, within its time; put in and taken out is nothing', () => {
  fc.assert(
    fc.property(timeline, fc.integer({ min: -5, max: 40 }), (before, time) => {
      const after = addCue(before, ['gull', 'sea'], time, 'pause', counter());
      const at = Math.max(0, Math.min(29, time));
      expect(told(after).filter((one) => one.startsWith('gull ') && one.split(' ')[1] === String(at))).toEqual([`gull ${at} pause`]);
      expect(told(after)).toContain(`sea ${at} pause`);
      const gone = removeCue(removeCue(after, 'new0'), 'new1');
      expect(told(gone)).toEqual(told(before).filter((one) => !one.startsWith(`gull ${at} `)));
    })
  );
});

test('moved there and back is nothing where no other stands; it never leaves its time', () => {
  fc.assert(
    fc.property(timeline, fc.integer({ min: -40, max: 40 }), (before, by) => {
      for (const [id, cue] of Object.entries(before.cues ?? {})) {
        const after = moveCue(before, id, by);
        const now = after.cues![id]!.time;
        expect(now).toBe(Math.max(0, Math.min(29, cue.time + by)));
        const others = Object.entries(before.cues!).some(([other, one]) => other !== id && one.layer === cue.layer && one.time === now);
        if (!others) expect(told(moveCue(after, id, cue.time - now))).toEqual(told(before));
        expect(new Set(told(after).map((one) => one.split(' ').slice(0, 2).join(' '))).size).toBe(told(after).length);
      }
      expect(moveCue(before, 'nobody', by)).toBe(before);
    })
  );
});
