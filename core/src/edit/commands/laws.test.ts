import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compose } from '../../compose/compose.ts';
import { framesOf, layersUnder, scenesOf, statesOf, threadsOf, type Piece } from '../../piece/piece.ts';
import { pieceToJson, readPiece } from '../../piece/read.ts';
import { compile } from '../../program/compile.ts';
import { expand } from '../../program/expand.ts';
import { update, type Program } from '../../program/program.ts';
import { judge } from '../../walk/audit.ts';
import { exploring } from '../../walk/explore.ts';
import { stillScreen } from '../../run/still.ts';
import { unwrap } from '../../result.ts';
import { generator } from '../../testing/large.ts';
import { timesOver } from '../../testing/runs.ts';
import { parseLines, printLine } from '../../lines/line.ts';
import { scopeFor, scopeOf } from '../../lines/scope.ts';
import { withReach } from '../reach/reach.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { makeChoice } from './choices.ts';
import { copyLayers, pasteClip } from './clip.ts';
import { duplicateFrame, moveFrames, newFrame } from './frames.ts';
import { alignLayers, groupLayers, moveLayers, removeLayers, resizeLayers, restack, restyle, spreadLayers, ungroupLayers } from './layers.ts';
import { pagesFor, pairWith, wireToState } from './pairs.ts';
import { carry, makePart, makeSheet, placePart, putDown, replacePart, takeApart } from './parts.ts';
import { repeatLayer } from './repeat.ts';
import { makeSlides, slideRoles } from './slides.ts';
import { addState, removeState } from './states.ts';
import { addSwatch, addTypeStyle, changeSwatch, removeSwatch, removeTypeStyle, setInStyle, swatchesOf, typeStylesOf } from './swatches.ts';
import { addThreads, moveThread, threadBefore, wireTo } from './threads.ts';
import { newVariable, retypeVariable } from './variables.ts';

/**
 * What holds of every command, whatever was done before: its operations can be applied, what undoes them gives back the very same
 * document, a program brought up to date shows what one made anew shows, and the document can be read again.
 */

/** A piece with something of everything: parts in parts, sheets, groups, states, looks, bindings, variables. */
const ferry = (): Piece =>
  compose({
    variables: { Seats: { type: 'number', initial: 2 }, Day: { type: 'choice', options: ['Fri', 'Sat'], initial: 'Fri' } },
    parts: {
      Dot: {
        size: [20, 20],
        states: { Off: {}, On: { Disc: { style: { fill: '#e59a00' } } } },
        layers: { Disc: { type: 'oval', at: [0, 0, 20, 20], style: { fill: '#cccccc' } } },
      },
      Ticket: {
        size: [200, 80],
        layers: {
          Paper: { at: [0, 0, 200, 80], text: 'Skarra', style: { fill: '#fbf7ee' } },
          Seal: { type: 'placement', part: 'Dot', at: [170, 10, 20, 20] },
        },
      },
    },
    sheets: { Bar: { layers: { Home: { at: [0, 780, 130, 60], text: 'home', lines: ['click → go to home'] } } } },
    frames: {
      home: {
        over: ['Bar'],
        states: { Calm: {}, Storm: { Sea: { style: { fill: '#333333' }, pose: { y: 320 } } } },
        layers: {
          Sea: { at: [0, 300, 390, 300], style: { fill: '#0b7a75' } },
          Crew: { type: 'group', at: [20, 40, 1, 1] },
          Ann: { in: 'Crew', at: [0, 0, 60, 60], style: { fill: '#e59a00' }, text: 'Ann', letters: { size: 13 } },
          Bo: { in: 'Crew', at: [80, 0, 60, 60], style: { fill: '#e59a00' }, text: 'Bo', letters: { size: 13 } },
          Buy: {
            at: [40, 640, 300, 60],
            text: 'Buy',
            looks: { hover: { style: { fill: '#f0b13c' } } },
            lines: ['click → if Seats > 0 → go to pay · push left 300 ms; otherwise → set Seats to 5', 'hover → send bell'],
          },
          Card: { type: 'placement', part: 'Ticket', at: [100, 120, 200, 80] },
        },
      },
      pay: {
        layers: {
          Title: { type: 'text', at: [20, 20, 300, 40], text: 'Pay', letters: { size: 28 } },
          Back: { at: [20, 700, 100, 50], lines: ['click → go to back'] },
        },
      },
      done: { ending: true, layers: { Word: { type: 'text', at: [20, 20, 300, 40], text: 'Aboard' } } },
    },
  });

/** With a swatch and a type style to begin with. */
function named(piece: Piece): Piece {
  const painted = unwrap(apply(piece, addSwatch(piece, 'Sea', '#0b7a75', () => 'sea').operations)).piece;
  return unwrap(apply(painted, addTypeStyle(painted, 'Small', { size: 13 }, () => 'small').operations)).piece;
}

interface World {
  readonly piece: Piece;
  readonly program: Program;
  readonly pick: <T>(from: readonly T[]) => T | undefined;
  readonly some: <T>(from: readonly T[]) => T[];
  readonly upTo: (most: number) => number;
  readonly makeId: () => string;
}

const boxAround = ({ piece }: World, ids: readonly string[]) => {
  const poses = ids.map((id) => piece.layers.get(id)!.pose);
  const [x, y] = [Math.min(...poses.map((pose) => pose.x)), Math.min(...poses.map((pose) => pose.y))];
  return {
    x,
    y,
    width: Math.max(...poses.map((pose) => pose.x + pose.width)) - x,
    height: Math.max(...poses.map((pose) => pose.y + pose.height)) - y,
  };
};

/** A scene with some of its outermost layers. */
function chosen(world: World): { scene: string; ids: string[] } | null {
  const scene = world.pick([...world.piece.scenes.keys()]);
  const ids = scene === undefined ? [] : world.some(layersUnder(world.piece, scene, null).map((layer) => layer.id));
  return scene === undefined || ids.length === 0 ? null : { scene, ids };
}

type Command = (world: World) => readonly Operation[];

const onLayers =
  (make: (world: World, scene: string, ids: string[]) => readonly Operation[]): Command =>
  (world) => {
    const found = chosen(world);
    return found ? make(world, found.scene, found.ids) : [];
  };

const frameOf = ({ piece, pick }: World) => pick(framesOf(piece))?.id;

const commands: Readonly<Record<string, Command>> = {
  move: onLayers(({ piece, upTo }, _scene, ids) => moveLayers(piece, ids, upTo(40) - 20, upTo(40) - 20)),
  resize: onLayers((world, scene, ids) => {
    const from = boxAround(world, ids);
    return resizeLayers(world.program, scene, ids, from, { ...from, width: from.width + world.upTo(50), height: from.height + 1 });
  }),
  align: onLayers(({ program, pick }, scene, ids) => alignLayers(program, scene, ids, pick(['left', 'center', 'bottom'] as const)!)),
  spread: onLayers(({ program, pick }, scene, ids) => spreadLayers(program, scene, ids, pick(['x', 'y'] as const)!)),
  restack: onLayers(({ piece, pick }, _scene, ids) => restack(piece, ids, pick(['front', 'forward', 'backward', 'back'] as const)!)),
  group: onLayers(({ program, makeId }, scene, ids) => groupLayers(program, scene, ids, makeId())),
  ungroup: onLayers(({ piece }, _scene, ids) => ungroupLayers(piece, ids).operations),
  remove: onLayers(({ piece }, _scene, ids) => removeLayers(piece, ids.slice(0, 1))),
  colour: onLayers(({ piece, pick }, _scene, ids) => restyle(piece, ids, ['fill'], pick(['#123456', undefined]))),
  'colour in a state': onLayers(({ piece, pick }, scene, ids) => {
    const state = pick(statesOf(piece.scenes.get(scene)!))?.id;
    const operations = restyle(piece, ids, ['fill'], '#654321');
    return state === undefined ? operations : withReach(piece, { of: 'states', scene }, { how: 'some', of: [state] }, operations);
  }),
  copy: onLayers(({ piece, program, pick, makeId }, scene, ids) => {
    const clip = copyLayers(program, scene, ids);
    const to = pick(framesOf(piece))?.id ?? scene;
    return pasteClip(piece, clip, to, makeId, { x: 5, y: 5 }, true).operations;
  }),
  'make a part': onLayers(({ program, makeId }, scene, ids) => makePart(program, scene, ids, 'Part', makeId)?.operations ?? []),
  'make a sheet': (world) => {
    const { piece, program, some, makeId } = world;
    const scene = frameOf(world);
    const ids = scene === undefined ? [] : some(layersUnder(piece, scene, null).map((layer) => layer.id));
    const frames = some(framesOf(piece)).map((frame) => frame.id);
    return scene === undefined || ids.length === 0 ? [] : (makeSheet(program, scene, ids, 'Sheet', frames, 'over', makeId)?.operations ?? []);
  },
  place: ({ piece, pick, makeId }) => {
    const [part, scene] = [pick(scenesOf(piece, 'part'))?.id, pick(framesOf(piece))?.id];
    return part && scene ? placePart(piece, scene, part, makeId()) : [];
  },
  replace: ({ piece, pick }) => {
    const placement = pick([...piece.layers.values()].filter((layer) => layer.part !== undefined));
    const part = pick(scenesOf(piece, 'part'))?.id;
    return placement && part && piece.scenes.get(placement.scene)?.use === 'frame' ? replacePart(piece, placement.id, part) : [];
  },
  'take apart': ({ piece, program, pick, makeId }) => {
    const placement = pick([...piece.layers.values()].filter((layer) => layer.part !== undefined));
    return placement ? takeApart(program, placement.id, makeId).operations : [];
  },
  carry: (world) => {
    const [frame, sheet] = [frameOf(world), world.pick(scenesOf(world.piece, 'sheet'))?.id];
    return frame && sheet ? carry(world.piece, frame, sheet, 'under') : [];
  },
  'put down': (world) => {
    const [frame, sheet] = [frameOf(world), world.pick(scenesOf(world.piece, 'sheet'))?.id];
    return frame && sheet ? putDown(world.piece, frame, sheet) : [];
  },
  repeat: onLayers(
    ({ program, makeId }, scene, ids) => repeatLayer(program, scene, ids[0]!, { across: 3, down: 1, gapX: 4, gapY: 4, fill: null }, makeId).operations
  ),
  choose: onLayers(({ piece, makeId }, scene, ids) =>
    makeChoice(piece, scene, ids, { name: 'Day', again: 'stays', first: true, variable: true }, makeId)
  ),
  'new state': ({ piece, pick, makeId }) => addState(piece, pick([...piece.scenes.keys()])!, makeId, {}).operations,
  'remove a state': ({ piece, pick }) => {
    const scene = pick([...piece.scenes.values()].filter((one) => statesOf(one).length > 0));
    return scene ? removeState(piece, scene.id, pick(statesOf(scene))!.id) : [];
  },
  'new frame': ({ piece, makeId, pick }) => newFrame(piece, makeId(), { draft: pick([true, false])! }),
  'copy a frame': (world) => duplicateFrame(world.piece, frameOf(world)!, world.makeId).operations,
  'move frames': ({ piece, some, pick }) =>
    moveFrames(
      piece,
      some(framesOf(piece)).map((frame) => frame.id),
      pick(framesOf(piece))?.id ?? null
    ),
  'pages for': onLayers((world, scene, ids) => {
    const page = frameOf(world);
    return page === undefined || page === scene
      ? []
      : pagesFor(
          world.piece,
          ids.map((id) => world.piece.layers.get(id)!),
          page,
          null,
          world.makeId
        );
  }),
  'pair up': onLayers(({ piece, makeId }, _scene, ids) =>
    pairWith(
      piece,
      ids.map((id) => piece.layers.get(id)!),
      framesOf(piece)
    ).flatMap(({ layer, partner }) => (partner === null ? [] : wireTo(piece, [layer], partner, makeId)))
  ),
  'bring into a state': onLayers(({ piece, pick, makeId }, scene, ids) => {
    const state = pick(statesOf(piece.scenes.get(scene)!));
    return state ? wireToState(piece, ids[0]!, undefined, state.id, makeId, true) : [];
  }),
  'paste threads': onLayers(({ piece, makeId, pick }, scene, ids) => {
    const thread = pick([...piece.threads.values()]);
    const lines = thread && parseLines(printLine(thread, scopeFor(piece, thread)), scopeOf(piece, scene, ids[0]!));
    return lines?.ok ? addThreads(piece, 'layer', ids[0]!, lines.value, makeId) : [];
  }),
  'move a thread': ({ piece, pick }) => {
    const thread = pick([...piece.threads.values()].filter((one) => threadsOf(piece, one.owner).length > 1));
    return thread ? moveThread(piece, thread.id, 1) : [];
  },
  'thread before': ({ piece, pick }) => {
    const [a, b] = [pick([...piece.threads.values()]), pick([...piece.threads.values()])];
    return a && b && a.on === b.on ? threadBefore(piece, a.id, b.id) : [];
  },
  slides: onLayers(({ program, piece, makeId }, scene, ids) => {
    const roles = slideRoles(ids.map((id) => piece.layers.get(id)!));
    return roles
      ? (makeSlides(program, scene, roles, { name: 'Slides', timing: { ms: 300, easing: 'ease' }, around: false }, makeId)?.operations ?? [])
      : [];
  }),
  'new variable': ({ piece, makeId }) => newVariable(piece, makeId(), { name: 'Count', type: 'number', initial: 0 }),
  'retype a variable': ({ piece, pick }) => {
    const variable = pick([...piece.variables.values()]);
    return variable ? retypeVariable(variable, pick(['text', 'yes/no'] as const)!) : [];
  },
  'name a colour': ({ piece, pick, makeId }) => addSwatch(piece, 'Swatch', pick(['#e59a00', '#0b7a75'])!, makeId).operations,
  'change a swatch': ({ piece, pick }) => changeSwatch(piece, pick(swatchesOf(piece.head))?.id ?? '', { color: '#445566' }),
  'remove a swatch': ({ piece, pick }) => removeSwatch(piece, pick(swatchesOf(piece.head))?.id ?? ''),
  'name a type': ({ piece, makeId }) => addTypeStyle(piece, 'Type', { size: 13 }, makeId).operations,
  'set in a type': onLayers(({ piece, pick }, _scene, ids) => setInStyle(piece, ids, pick(typeStylesOf(piece.head))?.id ?? '')),
  'remove a type': ({ piece, pick }) => removeTypeStyle(piece, pick(typeStylesOf(piece.head))?.id ?? ''),
};

const names = Object.keys(commands);

function worldOf(piece: Piece, program: Program, seed: number): World {
  const random = generator(seed);
  const upTo = (most: number) => Math.floor(random() * (most + 1));
  let n = 0;
  return {
    piece,
    program,
    upTo,
    pick: (from) => from[Math.floor(random() * from.length)],
    some: (from) => from.filter(() => random() < 0.5),
    makeId: () => `x${seed}n${n++}`,
  };
}

const seen = (program: Program) =>
  JSON.stringify(
    program.frames.map((id) =>
      stillScreen(program, id)!.surfaces.map(({ all }) => all.map(({ node, matrix, style, text }) => [node.key, matrix, style, text]))
    )
  );

test('every command can be applied, is undone without a trace, and leaves a program as one made anew', () => {
  const made = new Map<string, number>();
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.constantFrom(...names), fc.nat(100_000)), { minLength: 6, maxLength: 24 }), (steps) => {
      let piece = named(ferry());
      let program = compile(piece);
      for (const [at, [name, seed]] of steps.entries()) {
        const operations = commands[name]!(worldOf(piece, program, seed * 16 + at));
        if (operations.length === 0) continue;
        const applied = apply(piece, operations);
        if (!applied.ok) throw new Error(`${name}: ${applied.error.sentence} (${applied.error.path.join(' ')})`);
        made.set(name, (made.get(name) ?? 0) + 1);
        const undone = unwrap(apply(applied.value.piece, applied.value.inverse)).piece;
        expect(pieceToJson(undone)).toEqual(pieceToJson(piece));
        ({ piece } = applied.value);
        program = update(program, piece, applied.value.touched);
        expect(seen(program)).toBe(seen(compile(piece)));
      }
      expect(readPiece(pieceToJson(piece)).ok).toBe(true);
    }),
    { numRuns: 120, seed: 20 }
  );
  expect(names.filter((name) => !made.has(name))).toEqual([]);
});

/** All that a program holds that was worked out of its piece. */
function derivedFrom(program: Program) {
  const scenes = [...program.scenes.keys()].sort().map((id) => {
    const scene = program.scenes.get(id)!;
    const { nodes, instances, bindings, readers, timed, cut } = expand(program, scene);
    return {
      id,
      items: scene.items.map(({ layer, box, parent, children, threads, shown, catches }) => [
        layer.id,
        box,
        parent?.layer.id,
        children.map((child) => child.layer.id),
        threads.map((thread) => thread.id),
        shown,
        catches,
      ]),
      byId: [...scene.byId.keys()],
      threads: scene.threads.map((thread) => thread.id),
      states: [scene.states, scene.initial],
      variables: scene.variables.map((variable) => variable.id),
      nodes: nodes.map(({ key, fill, catches, changedBy }) => [key, fill, catches, changedBy.map(({ node, path }) => [node.key, path])]),
      instances: [...instances].map(([key, one]) => [key, one.scene.scene.id]),
      bindings: bindings.map(({ key, source, reads }) => [key, source, [...reads]]),
      readers: [...readers].map(([key, list]) => [key, list.map((binding) => binding.key)]).sort(),
      timed: timed.map(({ key }) => key),
      cut,
    };
  });
  const { frames, frameAt, threads, variables } = program;
  return {
    scenes,
    frames,
    frameAt: [...frameAt],
    threads: threads.map(({ id }) => id),
    variables: [...variables].sort(([a], [b]) => (a < b ? -1 : 1)),
  };
}

test('whatever rows of commands, undone and done again: what is kept up to date is what would be made anew', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.constantFrom(...names), fc.nat(100_000)), { minLength: 4, maxLength: 10 }), (steps) => {
      let program = compile(named(ferry()));
      let walked = exploring(program);
      walked.on(30);
      const go = (operations: readonly Operation[]) => {
        const applied = unwrap(apply(program.piece, operations));
        program = update(program, applied.piece, applied.touched);
        const anew = compile(applied.piece);
        expect(derivedFrom(program)).toEqual(derivedFrom(anew));
        return applied.inverse;
      };
      for (const [at, [name, seed]] of steps.entries()) {
        const operations = commands[name]!(worldOf(program.piece, program, seed * 16 + at));
        if (operations.length === 0) continue;
        const undo = go(operations);
        if (seed % 3 === 0) go(go(undo));
        if (seed % 3 === 1 && at < steps.length - 1) continue;
        walked = exploring(program, walked);
        const fresh = exploring(compile(program.piece));
        for (const one of [walked, fresh]) one.on(30);
        expect(judge(program, walked.result()).findings).toEqual(judge(program, fresh.result()).findings);
      }
    }),
    { numRuns: timesOver(20) }
  );
});
