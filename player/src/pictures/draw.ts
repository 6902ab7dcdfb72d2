import { hundredths, leavesOfScenes, leavesOfTimeline, toWalkThrough, type Leaf, type PrintedFrame, type Program, type Shot } from '@zany/core';
import { strToU8, zipSync } from 'fflate';
import { GifFilm } from './gif.ts';
import { pixelsOf, pngOf, type Canvas, type Painter } from './painter.ts';
import { pdfOf, type Page } from './pdf.ts';
import { SvgMaker } from './svg.ts';
import type { DrawForm, Pictured } from './wish.ts';

/** Files of pictures, painted without a browser. */

/** Hears how many pictures are there. */
export type Painted = (count: number) => void;

interface Making {
  readonly program: Program;
  readonly painter: Painter;
  /** Pixels for one CSS px. */
  readonly scale: number;
  readonly painted: Painted;
}

type Of<K extends Pictured['of']> = Extract<Pictured, { of: K }>;

/** A file of what is pictured: pictures in a zip, one document, or a film. `day` is said in what is printed. */
export async function drawn(form: DrawForm, pictured: Pictured, making: Making, day: string): Promise<Uint8Array> {
  switch (form) {
    case 'png':
      return pictures(pictured.shots, making);
    case 'svg':
      return drawings(pictured as Of<'frames' | 'timeline'>, making);
    case 'pdf':
      return pdfOf(making.program.piece.head.name, pages(pictured as Of<'frames' | 'timeline'>, making));
    case 'walk-through':
      return walkThrough(pictured as Of<'frames'>, making, day);
    case 'gif':
      return film(pictured as Of<'timeline' | 'walk'>, making);
  }
}

async function* paint<S extends Shot>(shots: readonly S[], { painter, scale, painted }: Making): AsyncGenerator<readonly [S, Canvas]> {
  for (const [i, shot] of shots.entries()) {
    yield [shot, await painter.paint(shot, scale)];
    painted(i + 1);
    // Memory of canvases is given back between turns of the event loop alone.
    await new Promise((resolve) => setImmediate(resolve));
  }
}

async function pictures(shots: readonly Shot[], making: Making): Promise<Uint8Array> {
  const files: Record<string, [Uint8Array, { level: 0 }]> = {};
  for await (const [{ name }, picture] of paint(shots, making)) files[`${name}.png`] = [await pngOf(picture), { level: 0 }];
  return zipSync(files);
}

/** What is seen one after the other, with where a click leads from it. */
const leavesOf = (pictured: Of<'frames' | 'timeline'>, program: Program): Leaf[] =>
  pictured.of === 'frames' ? leavesOfScenes(program, pictured.shots) : leavesOfTimeline(pictured.title, pictured.shots);

async function drawings(pictured: Of<'frames' | 'timeline'>, { program, painter, painted }: Making): Promise<Uint8Array> {
  const leaves = leavesOf(pictured, program);
  const maker = new SvgMaker(painter.sources, leaves);
  const files: Record<string, Uint8Array> = {};
  for (const [i, leaf] of leaves.entries()) {
    files[`${leaf.name}.svg`] = strToU8(await maker.file(leaf));
    painted(i + 1);
  }
  return zipSync(files);
}

async function* pages(pictured: Of<'frames' | 'timeline'>, making: Making): AsyncGenerator<Page> {
  for await (const [{ title, frame, screen, leads }, picture] of paint(leavesOf(pictured, making.program), making))
    yield { title, frame, width: screen.width, height: screen.height, png: await pngOf(picture), leads };
}

async function walkThrough({ shots }: Of<'frames'>, making: Making, day: string): Promise<Uint8Array> {
  const frames: PrintedFrame[] = [];
  for await (const [{ title, frame, state }, picture] of paint(shots, making))
    frames.push({ title, frame, state, picture: `data:image/png;base64,${Buffer.from(await pngOf(picture)).toString('base64')}` });
  return strToU8(toWalkThrough(making.program, frames, day));
}

async function film({ shots, perSecond, loops }: Of<'timeline' | 'walk'>, making: Making): Promise<Uint8Array> {
  const times = hundredths(shots.length, perSecond);
  const gif = new GifFilm();
  let at = 0;
  for await (const [, picture] of paint<Shot>(shots, making)) gif.add(pixelsOf(picture), picture.width, picture.height, times[at++]!, loops);
  return gif.end();
}
