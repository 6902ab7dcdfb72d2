import { describe, expect, test } from 'vitest';
import { filmOfWalk } from '../motion/film.ts';
import { settledValues, type Values } from '../motion/values.ts';
import { compile } from '../program/compile.ts';
import { cueKinds, type CueType } from '../vocabulary/cues/all.ts';
import { stepKinds, type StepType } from '../vocabulary/steps/all.ts';
import { transitionKinds, type Transition } from '../vocabulary/transitions/all.ts';
import { exampleOfCue, exampleOfStep, exampleOfTransition, type MovingExample } from './examples.ts';

/** What is seen at each moment, in words to compare. */
function seen({ piece, walk }: MovingExample): string[] {
  return [...filmOfWalk(compile(piece), walk, 10)].map(({ picture }) =>
    JSON.stringify(
      picture.scenes.map(({ surface, x, y, opacity, cut, scroll, ghosts }) => [
        [surface.scene, x, y, opacity, cut, scroll, [...ghosts].map(([, list]) => list.map(({ values }) => values))],
        surface.all.map((shown): Values => picture.values.get(shown.node.key) ?? settledValues(shown)),
        surface.all.map(({ text }) => text),
      ])
    )
  );
}

const moves = (example: MovingExample) => {
  const all = seen(example);
  // Something is seen to change, in no more than about four seconds.
  expect(new Set(all).size).toBeGreaterThan(1);
  expect(all.length).toBeLessThan(62);
};

describe('moving examples', () => {
  test.each(Object.keys(cueKinds) as CueType[])('of the cue %s show something change by that cue', (type) => {
    const example = exampleOfCue(type);
    if (!example) return expect(['media']).toContain(type);
    expect([...example.piece.threads.values()].map(({ cue }) => cue.type)).toContain(type);
    return moves(example);
  });

  test.each(Object.keys(stepKinds) as StepType[])('of the step %s show something change by that step', (type) => {
    const example = exampleOfStep(type);
    if (!example) return expect(['open']).toContain(type);
    expect([...example.piece.threads.values()].flatMap(({ branches }) => branches.flatMap(({ steps }) => steps.map((step) => step.do)))).toContain(
      type
    );
    return moves(example);
  });

  test('without the cue nothing changes, so that it is the cue that is shown', () => {
    for (const type of Object.keys(cueKinds) as CueType[]) {
      const example = exampleOfCue(type);
      if (!example) continue;
      let { threads } = example.piece;
      for (const thread of [...threads.values()]) if (thread.cue.type === type) threads = threads.set(thread.id, { ...thread, enabled: false });
      const [whole, without] = [seen(example), seen({ ...example, piece: { ...example.piece, threads } })];
      expect(whole.join() === without.join(), type).toBe(false);
    }
  });

  test.each(Object.values(transitionKinds).map(({ fresh }) => fresh as Transition))('of the transition $type show it as it is set', (transition) => {
    for (const within of [false, true]) {
      if (within && !transitionKinds[transition.type].isStill && !transitionKinds[transition.type].movesLayers) continue;
      const all = seen(exampleOfTransition(transition, within));
      expect(new Set(all).size).toBeGreaterThan(transition.type === 'cut' ? 1 : 2);
    }
  });
});
