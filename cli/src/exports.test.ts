import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { AstBuilder, GherkinClassicTokenMatcher, Parser } from '@cucumber/gherkin';
import { IdGenerator } from '@cucumber/messages';
import { exported, exportKinds, framesOf, readPackage, unwrap, type ExportKind, type PageParts, type Piece } from '@zany/core';
import { compose } from '@zany/core/testing';
import { parse as parseTokens, defineConfig, type Logger } from '@terrazzo/parser';
import { parse as parseDot, type ASTNode } from '@ts-graphviz/ast';
import { strFromU8, unzipSync } from 'fflate';
import { DirectedGraph } from 'graphology';
import { parse as parseGraphml } from 'graphology-graphml';
import { parse as parseCsv } from 'papaparse';
import ts from 'typescript';
import { describe, expect, test } from 'vitest';
import { sha256 } from './files.ts';

/** Every form is read by a program that is not ours, for each demo piece and for one with names as nasty as they come. */

const pieces = join(fileURLToPath(new URL('../..', import.meta.url)), 'demo/pieces');
const demos = [
  '1-ticket-app',
  '2-crossing-chart',
  '3-summer-banner',
  '4-day-trip',
  '5-pier-kiosk',
  '6-tide-lesson',
  '7-lamplight-banner',
  '8-harbour-clock',
];

const nasty = (): Piece => {
  const odd = 'A "quoted" <b>&amp; \\back`tick` #1; {brace} | pipe -- end';
  const piece = compose({
    name: `Nasty */ ${odd}`,
    variables: { Seats: { type: 'number', initial: 0, min: 0, max: 2 } },
    frames: {
      home: {
        layers: {
          More: { at: [0, 0, 90, 40], text: 'Seats {Seats}', lines: ['click → set Seats to Seats + 1'] },
          On: { at: [0, 50, 90, 40], lines: ['click → if Seats > 1 → go to pay; otherwise → open "https://kittiwake.example/a?b=1&c=2"'] },
        },
      },
      pay: { layers: { Back: { at: [0, 0, 90, 40], lines: ['click → go to back'] } } },
    },
  });
  const rename = <T extends { name: string }>(one: T, i: number): T => ({ ...one, name: `${odd} ${i}` });
  let { scenes, layers } = piece;
  [...scenes.values()].forEach((scene, i) => (scenes = scenes.set(scene.id, rename(scene, i))));
  [...layers.values()].forEach((layer, i) => (layers = layers.set(layer.id, rename(layer, i))));
  return { ...piece, scenes, layers };
};

interface Loaded {
  readonly piece: Piece;
  readonly assets: ReadonlyMap<string, Uint8Array>;
}

const read = async (name: string): Promise<Loaded> =>
  name === 'nasty' ? { piece: nasty(), assets: new Map() } : unwrap(await readPackage(await readFile(join(pieces, `${name}.zip`)), sha256));

/** Each is read, and so walked, once. */
const loaded = new Map<string, Promise<Loaded>>();
function load(name: string): Promise<Loaded> {
  const known = loaded.get(name) ?? read(name);
  loaded.set(name, known);
  return known;
}

const parts: PageParts = {
  runtime: 'console.log(1)',
  element: 'console.log(2)',
  css: 'main{color:red}',
  fonts: new Map([['Nunito', new Uint8Array([1, 2, 3])]]),
  hash: (text) => sha256(new TextEncoder().encode(text)),
  base64: (bytes) => Buffer.from(bytes).toString('base64'),
};

const written = async (name: string, kind: ExportKind): Promise<Uint8Array> => {
  const { piece, assets } = await load(name);
  return exported(kind, piece, assets, parts);
};
const textOf = async (name: string, kind: ExportKind): Promise<string> => strFromU8(await written(name, kind));

describe.each([...demos, 'nasty'])('%s', (name) => {
  test('the flow as GraphML is a graph with every frame', async () => {
    const graph = parseGraphml(DirectedGraph as never, await textOf(name, 'graphml'), { addMissingNodes: false }) as unknown as {
      nodes: () => string[];
      size: number;
      getNodeAttribute: (id: string, key: string) => unknown;
    };
    const { piece } = await load(name);
    for (const { id, name: wanted } of framesOf(piece)) expect(graph.getNodeAttribute(id, 'name')).toBe(wanted);
    expect(graph.nodes().length).toBeGreaterThanOrEqual(framesOf(piece).length);
  });

  test('the flow as DOT is read, with a node for each frame', async () => {
    const ast = parseDot(await textOf(name, 'dot'));
    const ids = new Set<string>();
    const visit = (node: ASTNode): void => {
      if (node.type === 'Node') ids.add(node.id.value);
      if ('children' in node) (node.children as readonly ASTNode[]).forEach(visit);
    };
    visit(ast);
    for (const { id } of framesOf((await load(name)).piece)) expect(ids).toContain(id);
  });

  test('threads as a table: a row for each branch, the same number of cells in each', async () => {
    const { piece } = await load(name);
    const { data, errors } = parseCsv<string[]>(await textOf(name, 'threads'), { skipEmptyLines: true });
    expect(errors).toEqual([]);
    expect(new Set(data.map((row) => row.length))).toEqual(new Set([10]));
    expect(data).toHaveLength(1 + [...piece.threads.values()].reduce((sum, { branches }) => sum + branches.length, 0));
    for (const row of data) for (const cell of row) expect(cell).not.toMatch(/^[=+@]/);
  });

  test('scenarios are Gherkin, each with what is done and what is seen', async () => {
    const parser = new Parser(new AstBuilder(IdGenerator.uuid()), new GherkinClassicTokenMatcher());
    const { feature } = parser.parse(await textOf(name, 'gherkin'));
    const scenarios = feature!.children.flatMap(({ scenario }) => scenario ?? []);
    expect(scenarios.length).toBeGreaterThan(0);
    for (const { steps } of scenarios) expect(steps[0]!.text).toMatch(/^I am on "/);
  });

  test('tests for Playwright are TypeScript', async () => {
    const source = await textOf(name, 'playwright');
    const { diagnostics } = ts.transpileModule(source, { reportDiagnostics: true, compilerOptions: { target: ts.ScriptTarget.ES2022 } });
    expect(diagnostics?.map(({ messageText }) => messageText)).toEqual([]);
    expect(source).toMatch(/\ntest\(/);
  });

  test('the package for npm has what its manifest names, and types that are TypeScript', async () => {
    const files = unzipSync(await written(name, 'npm'));
    const manifest = JSON.parse(strFromU8(files['package.json']!)) as { name: string; exports: Record<string, string | Record<string, string>> };
    expect(manifest.name).toMatch(/^[a-z0-9][a-z0-9-]*$/);
    for (const entry of Object.values(manifest.exports).flatMap((one) => (typeof one === 'string' ? [one] : Object.values(one))))
      expect(Object.keys(files)).toContain(entry.slice(2));
    const { diagnostics } = ts.transpileModule(strFromU8(files['index.d.ts']!), { reportDiagnostics: true });
    expect(diagnostics).toEqual([]);
    expect(unwrap(await readPackage(files['piece.zip']!, sha256)).piece.head.name).toBe((await load(name)).piece.head.name);
  });

  test('the page as a folder names only files that are in it', async () => {
    const files = unzipSync(await written(name, 'folder'));
    const page = strFromU8(files['index.html']!);
    const urls = [...page.matchAll(/(?:href|src)="(?!data:)([^"]+)"/g)].map((match) => match[1]!);
    const data = JSON.parse(/id="data">(.*)<\/script>/.exec(page)![1]!) as { assets: Record<string, string> };
    const fonts = [...strFromU8(files['piece.css']!).matchAll(/url\((fonts[^)]+)\)/g)].map((match) => match[1]!);
    for (const url of [...urls, ...Object.values(data.assets), ...fonts]) expect(Object.keys(files)).toContain(url);
    expect(page).toContain("default-src 'none'");
  });
});

test.each(Object.keys(exportKinds) as ExportKind[])('%s gives the same bytes for the same piece', async (kind) => {
  const { piece, assets } = await read('nasty');
  expect(exported(kind, piece, assets, parts)).toEqual(await written('nasty', kind));
});

test('tokens are read by another reader, with their values; what is no token is named', async () => {
  const piece = compose({ frames: { home: {} } });
  const head = {
    ...piece.head,
    swatches: { a: { name: 'Sea', order: 'a', color: '#0b7a7580' }, b: { name: '$Sea', order: 'b', color: '#ffffff' } },
    typeStyles: { t: { name: 'Heading {large}', order: 'a', letters: { family: 'Nunito' as const, size: 24, weight: 700, leading: 1.2 } } },
    easings: { e: { name: 'Swell', order: 'a', easing: 'cubic-bezier(0.2, 0, 0.1, 1)' }, s: { name: 'Bounce', order: 'b', easing: 'spring(0.3)' } },
  };
  const text = strFromU8(exported('tokens', { ...piece, head }, new Map(), parts));
  const problems: string[] = [];
  const note = (one: { message: string }) => void problems.push(one.message);
  const logger = {
    level: 'error',
    error: (...all: { message: string }[]) => all.forEach(note),
    warn: (...all: { message: string }[]) => all.forEach(note),
    info() {},
    debug() {},
    stats: () => ({ error: 0 }),
  } as unknown as Logger;
  const config = defineConfig({ lint: { rules: {} } }, { cwd: new URL('file:///') });
  const { tokens } = await parseTokens([{ src: text, filename: new URL('file:///a.tokens.json') }], { config, logger });
  expect(problems).toEqual([]);
  expect(Object.keys(tokens).sort()).toEqual(['colour.Sea', 'colour.Sea 2', 'easing.Swell', 'type.Heading large']);
  expect(tokens['colour.Sea']!.$value).toMatchObject({ colorSpace: 'srgb', components: [0.0431, 0.4784, 0.4588], alpha: 0.502 });
  expect(tokens['easing.Swell']!.$value).toEqual([0.2, 0, 0.1, 1]);
  expect(exportKinds.tokens.omits!({ ...piece, head })).toEqual(['the easing Bounce: spring(0.3) is no cubic Bézier']);
});

test('flows say back, addresses, conditions and what is laid over', async () => {
  const dot = await textOf('nasty', 'dot');
  expect(dot).toMatch(/if Seats > 1/);
  expect(dot).toContain('"back" [label="where one came from"');
  expect(dot).toContain('label="https://kittiwake.example/a?b=1&c=2"');
  const rows = parseCsv<string[]>(await textOf('nasty', 'threads'), { skipEmptyLines: true }).data;
  expect(rows.map((row) => row[7])).toEqual(['fires', 'yes', 'yes', 'yes', 'yes']);
});
