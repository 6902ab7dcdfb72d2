import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compile } from '../program/compile.ts';
import { expand } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { scenesOn } from '../run/environment.ts';
import { runnerFor, runnerIn } from '../run/machine.ts';
import { begin, meetIn, replay, start } from '../run/run.ts';
import { PlainStore } from '../run/store.ts';
import type { RunState } from '../run/state.ts';
import { generator } from '../testing/large.ts';
import { exploreNaively } from '../testing/naive.ts';
import { faults } from '../testing/planter/faults.ts';
import { judgePlanted } from '../testing/planter/plant.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { audit } from './audit.ts';
import { explore } from './explore.ts';
import type { Finding } from './finding.ts';
import { isHard, readIn } from './legible.ts';
import { isComplete, scenesReached } from './live.ts';
import { Ambient } from './ambient.ts';
import { deadlineOf, waitingIn } from './waits.ts';
import { seeingIn } from './sights.ts';
import { statesMet } from './states-met.ts';
import { asksMoreThan, ways, type Way } from './ways.ts';

/** What the walk says of pieces with everything in them, held against what the engine shows where a route ends, and against trying everything. */

const seeds = fc.integer({ min: 0, max: 1e9 });
const MOST = 300;

const endOf = (program: Program, { route }: Finding): RunState => replay(program, start(program, route!.from)!, route!.events).run;

const statesIn = ({ roots }: RunState) => Object.entries(roots).map(([scene, { states }]) => [scene, states]);

/** What has to be so at the end of the route of a finding. */
const shown: Readonly<Record<string, (program: Program, found: Finding) => boolean>> = {
  'endless-loop': (program, { route }) => {
    const begun = begin(program, route!.from)!;
    return [...begun.reports, ...replay(program, begun.run, route!.events).reports].some(({ whyNot }) =>
      whyNot.some(({ code }) => code === 'endless-loop')
    );
  },
  'timer-race': (program, found) => {
    const run = endOf(program, found);
    const waiting = waitingIn(program, run, new Ambient(program));
    const first = Math.min(...waiting.map(({ left }) => left));
    const due = waiting.filter(({ left }) => left - first < 0.5);
    // Each of them alone, with what it brings into states and where it leads.
    const after = due.map(({ wait }) => {
      const runner = runnerFor(program, run);
      return meetIn(runner, deadlineOf(wait, runner)!).run;
    });
    const isElsewhere = (one: RunState, other: RunState) =>
      one.frame !== other.frame || JSON.stringify(statesIn(one)) !== JSON.stringify(statesIn(other));
    return after.some((one) => after.some((other) => isElsewhere(one, other)));
  },
  'low-contrast': (program, found) => {
    const run = endOf(program, found);
    const expansions = scenesOn(program, run).map((root) => expand(program, program.scenes.get(root)!));
    return readIn(program, run, expansions).some((one) => one.node.layer.id === found.place.layer && isHard(one));
  },
  'unseen-hit': (program, found) => {
    const run = endOf(program, found);
    return seeingIn(runnerIn(program, new PlainStore(run))).sights.some(({ node, isUnseen }) => isUnseen && node.layer.id === found.place.layer);
  },
  'crowded-hit': (program, found) => {
    const run = endOf(program, found);
    return seeingIn(runnerIn(program, new PlainStore(run))).crowds.some(
      ({ a, b }) => found.id.endsWith(`:${a.layer.id}`) && b.layer.id === found.place.layer
    );
  },
  'off-frame': (program, found) => {
    const run = endOf(program, found);
    return seeingIn(runnerIn(program, new PlainStore(run))).sights.some(({ node, isOut }) => isOut && node.layer.id === found.place.layer);
  },
  covered: (program, found) => {
    const run = endOf(program, found);
    return seeingIn(runnerIn(program, new PlainStore(run))).sights.some(
      ({ node, isOpen, by }) => !isOpen && by && node.layer.id === found.place.layer
    );
  },
};

test('what is shown by a route is so where the route ends', () => {
  const told = new Set<string>();
  const check = (program: Program) => {
    for (const found of audit(program, { maxStates: 150 }).findings) {
      const isSo = shown[found.rule];
      if (!isSo || !found.route) continue;
      told.add(found.rule);
      expect(`${found.rule} ${isSo(program, found)}: ${found.sentence}`).toBe(`${found.rule} true: ${found.sentence}`);
    }
  };
  for (const rule of Object.keys(shown))
    for (let way = 0; way < faults[rule]!.length * 2; way++) {
      const planted = judgePlanted(rule, way, generator(way));
      if (planted) check(planted.program);
    }
  fc.assert(
    fc.property(seeds, (seed) => {
      check(compile(richPiece(seed)));
    }),
    { numRuns: timesOver(6) }
  );
  expect([...told].sort()).toEqual(Object.keys(shown).sort());
});

test('what never happens happens to nobody who tries everything', () => {
  let whole = 0;
  fc.assert(
    fc.property(seeds, (seed) => {
      const program = compile(richPiece(seed));
      const { findings, exploration } = audit(program, { maxStates: MOST * 3 });
      const theirs = exploreNaively(program, MOST, 5);
      for (const { rule, place, sentence, id } of findings) {
        if (rule === 'never-fires') {
          const thread = program.piece.threads.get(place.thread!)!;
          const never = thread.branches.findIndex((_, i) => !exploration.branches.has(`${thread.id} ${i}`));
          expect([sentence, theirs.branches.has(`${thread.id} ${never}`)]).toEqual([sentence, false]);
        }
        if (rule === 'no-effect') {
          const idle = program.piece.threads.get(place.thread!)!.branches.findIndex((_, i) => {
            const key = `${place.thread} ${i}`;
            return exploration.branches.has(key) && !exploration.acted.has(key);
          });
          expect([sentence, theirs.acting.has(`${place.thread} ${idle}`)]).toEqual([sentence, false]);
        }
        if (rule === 'unreachable-state') expect([sentence, theirs.entered.has(`${place.scene} ${id.split(':').at(-1)}`)]).toEqual([sentence, false]);
        if (rule === 'unreachable-frame') expect([sentence, theirs.reached.has(place.scene!)]).toEqual([sentence, false]);
      }
      if (!theirs.isWhole || !isComplete(exploration)) return;
      whole++;
      expect([...theirs.branches].filter((one) => !exploration.branches.has(one))).toEqual([]);
      expect([...theirs.acting].filter((one) => !exploration.acted.has(one))).toEqual([]);
      const unmet = findings.filter(({ rule }) => rule === 'unreachable-state').map(({ place, id }) => `${place.scene} ${id.split(':').at(-1)}`);
      // What one branch brings in, another one that fires with it can leave at once: it is met, and seen in no state.
      if (exploration.together > 1) return;
      // A state that something begins in and is out of at once is met all the same.
      const begun = statesMet(program, { ...exploration, entered: new Set() });
      const states = [...scenesReached(program, exploration)].flatMap((scene) =>
        Object.keys(program.scenes.get(scene)?.scene.states ?? {}).map((state) => `${scene} ${state}`)
      );
      expect(states.filter((state) => !theirs.entered.has(state) && !unmet.includes(state) && !begun.has(state))).toEqual([]);
    }),
    { numRuns: timesOver(7) }
  );
  expect(whole).toBeGreaterThan(0);
});

test('what somebody with a finger or a keyboard comes to is what trying all that they can do comes to', () => {
  let whole = 0;
  fc.assert(
    fc.property(seeds, fc.constantFrom<Way>('finger', 'keyboard'), (seed, way) => {
      const program = compile(richPiece(seed));
      const { exploration } = audit(program, { maxStates: MOST * 3 });
      if (!isComplete(exploration) || !asksMoreThan(program, way)) return;
      const mine = exploration.by(way);
      const theirs = exploreNaively(program, MOST, 5, ways[way].allows(program));
      if (!theirs.isWhole || !mine.isComplete) return;
      whole++;
      expect([...mine.reached].sort()).toEqual([...theirs.reached].sort());
      expect([...mine.fired].sort()).toEqual([...theirs.fired].sort());
      // Who asks for some of it alone is told the same of that.
      const fresh = explore(program, { maxStates: MOST * 3, slicedFrom: 10 });
      const asked = [...fresh.reached.keys(), ...fresh.fired].filter((_, i) => (seed + i) % 3 > 0);
      const some = fresh.by(way, asked);
      if (!some.isComplete) return;
      const met = (ids: ReadonlySet<string>) => asked.filter((id) => ids.has(id));
      expect(met(new Set([...some.reached, ...some.fired]))).toEqual(met(new Set([...theirs.reached, ...theirs.fired])));
    }),
    { numRuns: timesOver(12) }
  );
  expect(whole).toBeGreaterThan(0);
});
