import ts from 'typescript';
import { expect, test } from 'vitest';

/** How the files of the core lean on each other; types count as much as values. */

interface Globbing {
  glob: (pattern: string, options: { query: string; import: string; eager: true }) => Record<string, string>;
}
const texts = (import.meta as unknown as Globbing).glob('./**/*.ts', { query: '?raw', import: 'default', eager: true });
const files = Object.keys(texts)
  .filter((file) => !file.endsWith('.test.ts'))
  .map((file) => file.slice(2));
const known = new Set(files);

/** A file named from another one. */
function resolved(from: string, name: string): string {
  const steps = from.split('/').slice(0, -1);
  for (const step of name.split('/'))
    if (step === '..') steps.pop();
    else if (step !== '.') steps.push(step);
  return steps.join('/');
}

const imports = new Map(
  files.map((file) => {
    const own = ts.preProcessFile(texts[`./${file}`]!).importedFiles.filter(({ fileName }) => fileName.startsWith('.'));
    return [file, own.map(({ fileName }) => resolved(file, fileName))] as const;
  })
);

/** The first circle that is met, as a way from a file back to itself; null where there is none. */
function circle(): string[] | null {
  const done = new Set<string>();
  const way: string[] = [];
  const visit = (file: string): string[] | null => {
    if (way.includes(file)) return [...way.slice(way.indexOf(file)), file];
    if (done.has(file)) return null;
    way.push(file);
    for (const next of imports.get(file) ?? []) {
      const found = visit(next);
      if (found) return found;
    }
    way.pop();
    done.add(file);
    return null;
  };
  for (const file of files) {
    const found = visit(file);
    if (found) return found;
  }
  return null;
}

test('every file that is imported is there, and none leans on itself by way of others', () => {
  expect(files.length).toBeGreaterThan(150);
  expect([...imports.values()].flat().filter((file) => !known.has(file))).toEqual([]);
  expect(circle()).toBeNull();
});

/** Folders that may not be leaned on from others. */
const FORBIDDEN: readonly (readonly [from: string, to: string])[] = [
  ...['piece', 'program', 'run', 'motion', 'lines', 'edit', 'walk', 'formats'].flatMap((to) => [
    ['vocabulary', to] as const,
    ['fields', to] as const,
  ]),
  ['fields', 'vocabulary'],
  ['expression', 'vocabulary'],
  ['expression', 'program'],
  ['piece', 'program'],
  ['piece', 'run'],
  ['run', 'walk'],
  ['program', 'walk'],
  ['program', 'run'],
  ['program', 'lines'],
  ['run', 'lines'],
  ['motion', 'walk'],
  ['edit', 'walk'],
  ['lines', 'walk'],
  ['lines', 'run'],
];

test.each(FORBIDDEN)('%s/ does not lean on %s/', (from, to) => {
  const found = files.filter((file) => file.startsWith(`${from}/`)).flatMap((file) => imports.get(file)!.filter((one) => one.startsWith(`${to}/`)));
  expect(found).toEqual([]);
});
