import { printLine } from '../lines/line.ts';
import { scopeFor } from '../lines/scope.ts';
import { sceneOfThread, threadsOf as threadsOfOwner, type Piece, type Thread } from '../piece/piece.ts';
import type { Rect } from '../program/geometry.ts';
import { threadsAt, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { standingScreen, type Screen, type Stood } from '../run/resolve.ts';
import { stillRun } from '../run/still.ts';
import { targetOf } from '../vocabulary/steps/all.ts';
import { count } from '../words.ts';
import { standingDocument } from './document.ts';
import { escaped } from './escaped.ts';
import { areaSeen } from './leads-from.ts';

/** A walk-through on paper: every frame with its areas numbered, and what its threads say beside it. */

/** A frame as it is printed, in one of its states where it has some. */
export interface PrintedFrame {
  readonly frame: string;
  readonly title: string;
  readonly state: string | null;
  /** What is seen on it, as an address that holds the picture. */
  readonly picture: string;
}

interface Area {
  /** What stands beside it; null for what is not seen in this picture. */
  readonly number: number | null;
  readonly name: string;
  readonly area: Rect | null;
  readonly threads: readonly Thread[];
}

/** A page that stands by itself (HTML), laid out for sheets of A4 on their side; `when` is said in it as it is given. */
export function toWalkThrough(program: Program, frames: readonly PrintedFrame[], when: string): string {
  const { piece } = program;
  const title = `Walk-through of ${piece.head.name}`;
  // A frame in several states stands several times: what leads to it leads to the first.
  const places = new Map(frames.map(({ frame }, i) => [frame, i + 1] as const).reverse());
  return standingDocument(
    title,
    STYLE,
    `<p>${escaped(`${count(frames.length, 'picture')}. Where something can be done on a frame, it has a number; beside it stands what it does.`)}</p>
<p class="soft">${escaped(when)}</p>
<nav aria-label="Frames"><ol>
${frames.map(({ title: name }, i) => `<li><a href="#f${i + 1}">${escaped(name)}</a></li>`).join('\n')}
</ol></nav>
${ownThreads(piece, piece.head.id, 'Everywhere in the piece', places)}
${frames.map((frame, i) => frameSection(program, frame, i + 1, places)).join('\n')}`
  );
}

const STYLE = `@page { size: A4 landscape; margin: 12mm; }
body { margin: 2rem auto; max-width: 68rem; padding: 0 1rem; background: #fbf7ee; color: #26232c; font: 14px/1.45 system-ui, sans-serif; }
h1, h2, h3 { font-weight: 650; line-height: 1.2; } h2 { margin: 0 0 .8rem; font-size: 1.25rem; } h3 { margin: 0; font-size: 1rem; break-after: avoid; }
nav ol { columns: 3; padding-left: 2rem; } a { color: inherit; text-decoration-color: #b8860b; }
.soft { color: #625a69; }
section.frame { display: flex; gap: 2rem; align-items: flex-start; padding: 1.4rem 0; border-top: 2px dashed #d9a441; }
.picture { flex: none; width: 46%; } .picture svg { display: block; max-width: 100%; max-height: 160mm; margin: 0 auto; border: 1px solid #ddd2bd; background: #ffffff; }
.said { flex: 1; min-width: 0; } .said article { padding: .5rem 0; border-top: 1px solid #ddd2bd; break-inside: avoid; } .said p { margin: .2rem 0; overflow-wrap: anywhere; } .said p.note { white-space: pre-wrap; }
b { display: inline-block; min-width: 1.5em; padding: 0 .3em; border-radius: .8em; background: #26232c; color: #ffffff; text-align: center; font-weight: 650; }
@media print { body { margin: 0; max-width: none; padding: 0; background: none; } section.frame { break-before: page; border: none; padding: 0; } b { print-color-adjust: exact; } }`;

function frameSection(program: Program, { frame, title, state, picture }: PrintedFrame, place: number, places: ReadonlyMap<string, number>): string {
  const { piece } = program;
  const run = stillRun(program, frame, { state });
  if (!run) return '';
  const screen = standingScreen(program, run);
  const { width, height } = screen;
  const areas = areasOf(screen);
  const sheets = screen.surfaces
    .filter(({ scene }) => scene !== frame)
    .map(({ scene }) => ownThreads(piece, scene, `The sheet ${piece.scenes.get(scene)?.name ?? ''}`, places));
  return `<section class="frame" id="f${place}">
<div class="picture"><h2>${place} ${escaped(title)}</h2>
<svg viewBox="0 0 ${width} ${height}" role="img" aria-label="${escaped(title)}, with its areas numbered"><image href="${escaped(picture)}" width="${width}" height="${height}"/>
${areas.map((area) => mark(area, Math.max(width, height) / 46)).join('')}</svg></div>
<div class="said">
${noteOf(piece, frame)}${areas.map((area) => said(piece, area, places)).join('\n')}
${ownThreads(piece, frame, 'The frame itself', places)}
${sheets.join('\n')}
${areas.length === 0 ? '<p class="soft">Nothing can be done on its layers.</p>' : ''}
</div>
</section>`;
}

/** What whoever builds the frame is told of it, line by line. */
function noteOf(piece: Piece, frame: string): string {
  const note = piece.scenes.get(frame)?.note;
  return note === undefined ? '' : `<article><h3>Note</h3>\n<p class="note">${escaped(note)}</p></article>\n`;
}

/** What has threads on a screen: what is seen from above to below, then what is not. */
function areasOf(screen: Screen<Stood>): Area[] {
  const seen = screen.surfaces.flatMap((surface) =>
    surface.all.flatMap((shown) => {
      const area = threadsOf(shown.node).length ? areaSeen(shown, surface, screen) : null;
      return area ? [{ node: shown.node, area }] : [];
    })
  );
  const nodes = new Set(seen.map(({ node }) => node));
  const others = screen.surfaces.flatMap(({ expansion }) => expansion.threaded.filter((node) => !nodes.has(node) && threadsOf(node).length > 0));
  const numbered = seen.sort((a, b) => a.area.y - b.area.y || a.area.x - b.area.x).map((one, i) => ({ ...one, number: i + 1 }));
  return [...numbered, ...others.map((node) => ({ node, area: null, number: null }))].map(({ node, ...where }) => ({
    ...where,
    name: node.layer.name,
    threads: threadsOf(node),
  }));
}

const threadsOf = (node: Node): Thread[] => threadsAt(node).filter(({ enabled }) => enabled);

function mark({ number, area }: Area, size: number): string {
  if (number === null || area === null) return '';
  const { x, y, width, height } = area;
  const at = (value: number) => Math.round(value * 10) / 10;
  return `<rect x="${at(x)}" y="${at(y)}" width="${at(width)}" height="${at(height)}" fill="none" stroke="#c2410c" stroke-width="${at(size / 8)}" stroke-dasharray="${at(size / 2)} ${at(size / 3)}"/>
<circle cx="${at(x + size / 2)}" cy="${at(y + size / 2)}" r="${at(size * 0.75)}" fill="#26232c" stroke="#ffffff" stroke-width="${at(size / 10)}"/><text x="${at(x + size / 2)}" y="${at(y + size * 0.85)}" font-size="${at(size)}" font-weight="650" text-anchor="middle" fill="#ffffff">${number}</text>`;
}

function said(piece: Piece, { number, name, threads }: Area, places: ReadonlyMap<string, number>): string {
  return `<article><h3>${number === null ? '' : `<b>${number}</b> `}${escaped(name)}${number === null ? ' <span class="soft">(not seen in this picture)</span>' : ''}</h3>
${lines(piece, threads, places)}</article>`;
}

/** The threads of a scene or of the piece; nothing where it has none. */
function ownThreads(piece: Piece, owner: string, title: string, places: ReadonlyMap<string, number>): string {
  const threads = threadsOfOwner(piece, owner).filter(({ enabled }) => enabled);
  return threads.length ? `<article><h3>${escaped(title)}</h3>\n${lines(piece, threads, places)}</article>` : '';
}

const lines = (piece: Piece, threads: readonly Thread[], places: ReadonlyMap<string, number>): string =>
  threads
    .map((thread) => {
      const note = thread.note ? `<p class="soft">“${escaped(thread.note)}”</p>` : '';
      return `<p>${escaped(printLine(thread, scopeFor(piece, thread)))}${leadsTo(piece, thread, places)}</p>${note}`;
    })
    .join('\n');

/** Where in the walk-through the frames stand that a thread leads to. */
function leadsTo(piece: Piece, thread: Thread, places: ReadonlyMap<string, number>): string {
  const frames = thread.branches.flatMap(({ steps }) =>
    steps.flatMap((step) => {
      if (step.do === 'lay') return step.frame === null ? [] : [step.frame];
      const target = targetOf(step);
      return target?.to === 'frame' && target.frame !== null ? [target.frame] : [];
    })
  );
  const links = [...new Set(frames)].flatMap((frame) => {
    const place = places.get(frame);
    const name = piece.scenes.get(frame)?.name ?? '';
    return place === undefined || frame === sceneOfThread(piece, thread) ? [] : [`<a href="#f${place}">${escaped(name)} is ${place}</a>`];
  });
  return links.length ? ` <span class="soft">(${links.join(', ')})</span>` : '';
}
