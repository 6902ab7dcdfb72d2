import type { Program } from '../program/program.ts';
import { count } from '../words.ts';
import { restBetween } from './rest-between.ts';
import { scenesBetween, type SceneChange } from './scenes-between.ts';
import { threadsBetween, type ThreadChange } from './threads-between.ts';

/** All that differs between two versions of a piece as they are written; what they do otherwise is told by the walk. */
export interface Differences {
  readonly scenes: readonly SceneChange[];
  readonly threads: readonly ThreadChange[];
  readonly rest: readonly string[];
}

export const differencesBetween = (before: Program, after: Program): Differences => ({
  scenes: scenesBetween(before, after),
  threads: threadsBetween(before.piece, after.piece),
  rest: restBetween(before.piece, after.piece),
});

const uses: Readonly<Record<SceneChange['use'], string>> = { frame: 'Frame', part: 'Part', sheet: 'Sheet' };

/** The same as lines of text. */
export const differenceLines = ({ scenes, threads, rest }: Differences): string[] => [
  ...scenes.flatMap(sceneLines),
  ...threads.map(threadLine),
  ...rest,
];

function sceneLines({ name, use, kind, what, layers, looks }: SceneChange): string[] {
  const of = `${uses[use]} ${name}`;
  if (kind === 'added' || kind === 'removed') return [`${of} is ${kind === 'added' ? 'new' : 'gone'}.`];
  if (kind === 'same but for what is in it')
    return [
      `${of} looks otherwise by what is in it: ${count(Math.max(...looks.map(({ before, after }) => Math.max(before.length, after.length))), 'place')}.`,
    ];
  const ofLayers = layers.map((layer) =>
    layer.kind === 'changed'
      ? `${of}, ${layer.name}: ${layer.what.join('; ')}.`
      : `${of}: ${layer.name} is ${layer.kind === 'added' ? 'new' : 'gone'}.`
  );
  return [...(what.length ? [`${of}: ${what.join('; ')}.`] : []), ...ofLayers];
}

function threadLine({ kind, at, before, after, also }: ThreadChange): string {
  const more = also.length ? `; ${also.join('; ')}` : '';
  if (kind === 'added') return `${at}: “${after}” is new${more}.`;
  if (kind === 'removed') return `${at}: “${before}” is gone${more}.`;
  if (kind === 'moved') return `${at}: “${after}” stands elsewhere${more}.`;
  return before === after ? `${at}: “${after}” is changed${more}.` : `${at}: “${after}” instead of “${before}”${more}.`;
}
