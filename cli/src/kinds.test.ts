import { execFile } from 'node:child_process';
import { cp, mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type * as Core from '@zany/core';
import type * as Testing from '@zany/core/testing';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';

/** One of a kind is added by its file and its line in the table: made up ones are, in a copy of the core, and all who should know them do. */

const root = fileURLToPath(new URL('../..', import.meta.url));
let folder = '';
let core: typeof Core;
let testing: typeof Testing;
let documents: Record<'schemaDocument' | 'grammarDocument' | 'tablesDocument' | 'rulesDocument', () => string>;

/** Writes the file of a made up one, and its line in the table (with what it is imported from). */
async function add(table: string, file: string, name: string, text: string): Promise<void> {
  const at = join(folder, 'core/src', table);
  await writeFile(join(at, '..', file), text);
  const old = await readFile(at, 'utf8');
  const line = old.includes('] as const;') ? '] as const;' : '];';
  await writeFile(at, `import { ${name} } from './${file}';\n${old.replace(line, `, ${name}${line}`).replaceAll(`,\n, `, `, `)}`);
}

beforeAll(async () => {
  await mkdir(join(root, '.data'), { recursive: true });
  folder = await mkdtemp(join(root, '.data/kinds-'));
  await cp(join(root, 'core'), join(folder, 'core'), { recursive: true, filter: (file) => !/node_modules|\.test\.ts$/.test(file) });
  await cp(join(root, 'tsconfig.base.json'), join(folder, 'tsconfig.base.json'));
  await add(
    'vocabulary/cues/all.ts',
    'typed.ts',
    'typed',
    `import { Literal, Object as Obj } from '@sinclair/typebox';
import { strict } from '../../fields/step-fields.ts';
import { ANYWHERE, cueForm, defineCue } from './define.ts';

export const typed = defineCue({
  type: 'typed',
  label: 'a letter typed',
  meaning: 'a key with a letter on it goes down',
  owners: ANYWHERE,
  schema: Obj({ type: Literal('typed') }, strict),
  fresh: { type: 'typed' },
  forms: [cueForm('typed', {}, 'letter')],
  when: () => 'When a letter is typed',
  hears: 'key',
  fits: (_cue, { key }) => /^[a-z]$/i.test(key),
  tries: () => [{ type: 'key', key: 'k' }],
});
`
  );
  await add(
    'vocabulary/steps/all.ts',
    'ring.ts',
    'ring',
    `import { Integer } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { done } from '../stepped.ts';
import { TransitionSchema } from '../transitions/schema.ts';
import { CUT, defineStep, stepForm, stepSchema, timeOf, transitionSlot } from './define.ts';

export const ring = defineStep({
  do: 'ring',
  label: 'ring the bell',
  meaning: 'rings the bell of the boat, so many times',
  schema: stepSchema('ring', { times: Integer({ minimum: 0, maximum: 99 }), transition: TransitionSchema }),
  fresh: { do: 'ring', times: 1, transition: CUT },
  forms: [stepForm('ring', {}, 'ring', slot('times', 'number'), transitionSlot)],
  run(acting, { times, transition }) {
    for (let i = 0; i < times; i++) acting.send('bell');
    return done(\`rang \${times} times\`, { took: timeOf(transition) });
  },
});
`
  );
  await add(
    'vocabulary/transitions/all.ts',
    'sink.ts',
    'sink',
    `import { defineTransition, directedSchema, FROM_THE_LEFT } from './define.ts';
import { movedOut, staying, still, wayOf } from './moving.ts';

export const sink = defineTransition({
  type: 'sink',
  label: 'sink',
  meaning: 'the new one comes from half the way',
  schema: directedSchema('sink'),
  fresh: { type: 'sink', ...FROM_THE_LEFT },
  hasDirection: true,
  ways: (onScreen, change) => {
    const far = movedOut(still(change.to), change, -1);
    return [...staying(onScreen), wayOf({ ...far, x: far.x / 2, y: far.y / 2 }, still(change.to))];
  },
});
`
  );
  await add(
    'vocabulary/properties/all.ts',
    'mist.ts',
    'mist',
    `import { Number as Num, Optional } from '@sinclair/typebox';
import { defineProperty } from './define.ts';

export const mist = defineProperty({
  name: 'mist',
  words: 'in the mist',
  group: 'style',
  schema: Optional(Num({ minimum: 0, maximum: 50 })),
  neutral: 0,
  isNothing: true,
  mixing: 'length',
  css: { name: 'filter', text: (value: number) => (value ? \`blur(\${value}px)\` : '') },
});
`
  );
  await add(
    'vocabulary/layers/all.ts',
    'pennant.ts',
    'pennant',
    `import { defineLayer } from './define.ts';

export const pennant = defineLayer({
  type: 'pennant',
  words: 'pennant',
  meaning: 'a flag with one point',
  draws: 'outline',
  outline: 'M0 0L100 50L0 100Z',
});
`
  );
  await add(
    'walk/rules/index.ts',
    'no-bell.ts',
    'noBell',
    `import { finding, type Rule } from '../finding.ts';

export const noBell: Rule = {
  id: 'no-bell',
  words: 'no bell',
  meaning: 'a piece in which no bell is rung',
  spares: 'whistles',
  check: ({ program: { piece, frames } }) =>
    [...piece.threads.values()].some(({ branches }) => branches.some(({ steps }) => steps.some((step) => (step.do as string) === 'ring')))
      ? []
      : [finding('no-bell', 'note', { scene: frames[0]! }, 'No bell is rung', 'Passengers like it.')],
};
`
  );
  await add(
    'formats/exports/all.ts',
    'words.ts',
    'words',
    `import { defineExport } from './define.ts';

export const words = defineExport({
  kind: 'words',
  group: 'graph',
  label: 'All words',
  act: 'Save the words',
  ending: '.txt',
  mediaType: 'text/plain',
  meaning: 'what stands in the texts, a line each',
  write: (piece) => [...piece.layers.values()].flatMap(({ text }) => text ?? []).sort().join('\\n'),
});
`
  );
  const from = (file: string) => import(/* @vite-ignore */ join(folder, 'core/src', file)) as Promise<unknown>;
  core = (await from('index.ts')) as typeof Core;
  testing = (await from('testing/index.ts')) as typeof Testing;
  documents = (await from('testing/documents.ts')) as typeof documents;
}, 60_000);
afterAll(() => rm(folder, { recursive: true, force: true }));

const LINE = 'letter → ring 3; go to Pay · sink up 200 ms linear';

const piece = () =>
  testing.compose({
    frames: {
      Home: { layers: { Box: { at: [0, 0, 100, 60], text: 'Boats' } }, lines: [LINE] },
      Pay: { layers: { Back: { at: [0, 0, 100, 60], text: 'Back', lines: ['click → back; ring 1'] } } },
    },
  } as never);

describe('a cue, a step, a transition, a type of layer, a property, a rule and an export that are made up', () => {
  test('compile', async () => {
    const compiler = join(root, 'node_modules/.bin/tsgo');
    await expect(promisify(execFile)(compiler, ['--noEmit', '-p', join(folder, 'core')])).resolves.toMatchObject({ stdout: '' });
  }, 120_000);

  test('are in the schema, and a piece with them is read', () => {
    const schema = documents.schemaDocument();
    for (const word of ['typed', 'ring', 'sink', 'mist', 'pennant']) expect(schema).toContain(`"const": "${word}"`);
    expect(core.readPiece(core.pieceToJson(piece()))).toMatchObject({ ok: true });
    const broken = JSON.parse(JSON.stringify(core.pieceToJson(piece())).replace('"times":3', '"times":-3')) as unknown;
    expect(core.readPiece(broken)).toMatchObject({ ok: false });
  });

  test('are written, read, completed and shown as chips', () => {
    const scope = core.scopeOf(piece(), core.framesOf(piece())[0]!.id);
    const parsed = core.parseLine(LINE, scope);
    if (!parsed.ok) throw parsed.error;
    expect(core.printLine(parsed.value, scope)).toBe(LINE);
    expect(core.sentence(parsed.value, scope)).toBe('When a letter is typed → ring 3; then go to Pay · sink up 200 ms linear');
    const step = parsed.value.branches[0]!.steps[0]!;
    expect(core.piecesOf(core.formOfStep(step), step, scope)).toContainEqual(expect.objectContaining({ value: 3, text: '3' }));
    expect(core.completions('let', scope).map(({ line }) => line)).toContain('letter');
    expect(core.completions('click → ri', scope).map(({ line }) => line)).toContain('click → ring');
    expect(core.completions('click → Pay · si', scope).map(({ line }) => line)).toContain('click → Pay · sink');
    expect(core.cuesFor('piece')).toContain('typed');
  });

  test('run, and are seen to move', () => {
    const program = core.compile(piece());
    const { run, reports } = core.advance(program, core.start(program)!, { type: 'key', key: 'q' });
    expect(program.scenes.get(run.frame)!.scene.name).toBe('Pay');
    expect(reports[0]!.fired[0]!.steps.map(({ sentence }) => sentence)).toEqual(['rang 3 times', 'went to Pay']);
    expect(reports[0]!.effects.filter(({ type }) => type === 'signal')).toHaveLength(3);
    expect(core.advance(program, core.start(program)!, { type: 'key', key: '7' }).run.frame).not.toBe(run.frame);
    const motion = core.startMotion([core.still('a')], 'b', { type: 'sink', direction: 'up', ms: 200, easing: 'linear' } as never, {
      width: 100,
      height: 80,
    });
    expect(core.placedAt(motion, 0).at(-1)).toMatchObject({ frame: 'b', x: 0, y: 40 });
  });

  test('have keys, and are on their way between them', () => {
    const made = testing.compose({
      frames: {
        Home: {
          layers: { Boat: { at: [0, 0, 90, 60], style: { mist: 40 } } },
          timeline: {
            length: 11,
            autoplay: false,
            labels: { Fog: [0, 'hold'], Clear: [5, 'hold'] },
            tracks: [
              [
                'Boat',
                'mist',
                [
                  [0, 20],
                  [10, 0],
                ],
              ],
            ],
          },
          lines: ['key c → show label Clear'],
        },
      },
    } as never);
    expect(core.readPiece(core.pieceToJson(made))).toMatchObject({ ok: true });
    const program = core.compile(made);
    const seen = (run: Core.RunState) => {
      const shown = core.resolveScreen(program, run).surfaces[0]!.all[0]!;
      return (core.valuesOf(shown) as unknown as { mist: number }).mist;
    };
    const begun = core.start(program)!;
    expect(seen(begun)).toBe(20);
    expect(seen(core.advance(program, begun, { type: 'key', key: 'c' }).run)).toBe(10);
    expect(core.restValue([...made.layers.values()][0]!, 'mist' as never)).toBe(40);
    const { css } = core.properties.find(({ name }) => (name as string) === 'mist')!;
    expect(css!.text(3 as never)).toBe('blur(3px)');
  });

  test('are drawn, pressed and made at random', () => {
    const made = testing.compose({
      frames: { Home: { layers: { Flag: { type: 'pennant', at: [10, 10, 60, 60], lines: ['click → Pay'] } } }, Pay: {} },
    } as never);
    expect(core.readPiece(core.pieceToJson(made))).toMatchObject({ ok: true });
    const program = core.compile(made);
    const [flag] = core.resolveScreen(program, core.start(program)!).surfaces[0]!.all;
    expect(core.layerKind(flag!.node.layer)).toMatchObject({ draws: 'outline', words: 'pennant' });
    expect(core.properties.filter(({ suits }) => suits?.(flag!.node.layer)).map(({ name }) => name)).toContain('drawn');
    const { run } = core.advance(program, core.start(program)!, { type: 'click', layer: flag!.node.key });
    expect(program.scenes.get(run.frame)!.scene.name).toBe('Pay');
    const types = Array.from({ length: 60 }, (_, seed) => [...testing.randomPiece(seed).layers.values()].map(({ type }) => type as string)).flat();
    expect(types).toContain('pennant');
  });

  test('are explored and judged', () => {
    const { exploration, findings } = core.audit(core.compile(piece()));
    expect(exploration.reached.size).toBe(2);
    expect(findings.map(({ rule }) => rule)).not.toContain('no-bell');
    const silent = testing.compose({ frames: { Home: {} } });
    expect(core.audit(core.compile(silent)).findings.map(({ rule }) => rule)).toContain('no-bell');
  });

  test('are in random pieces, in the documents and among the forms to hand over', () => {
    const scope = core.scopeOf(piece(), core.framesOf(piece())[0]!.id);
    const steps = Array.from({ length: 600 }, (_, seed) => testing.randomStepOf(testing.generator(seed), scope));
    expect(steps.some((step) => (step.do as string) === 'ring')).toBe(true);
    expect(steps.some((step) => 'transition' in step && (step.transition.type as string) === 'sink')).toBe(true);
    const cues = Array.from({ length: 600 }, (_, seed) => testing.randomCueOf(testing.generator(seed), scope));
    expect(cues.some((cue) => (cue.type as string) === 'typed')).toBe(true);
    expect(documents.grammarDocument()).toMatch(/cue-typed = "letter" ;[^]*step-ring = "ring" , number/);
    expect(documents.grammarDocument()).toContain('"sink"');
    for (const words of [
      'rings the bell of the boat',
      'a key with a letter',
      'half the way',
      'in the mist',
      'a flag with one point',
      'what stands in the texts',
    ])
      expect(documents.tablesDocument()).toContain(words);
    expect(documents.rulesDocument()).toContain('no bell is rung');
    expect(new TextDecoder().decode(core.exported('words' as never, piece(), new Map(), {} as never))).toBe('Back\nBoats');
  });
});
