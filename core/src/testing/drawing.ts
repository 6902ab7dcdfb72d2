import { escaped } from '../formats/escaped.ts';
import { layerKind } from '../vocabulary/layers/all.ts';
import type { Program } from '../program/program.ts';
import { boundsOf, resolveScreen, type Screen, type Shown } from '../run/resolve.ts';
import { advance, start } from '../run/run.ts';
import type { RunEvent } from '../run/state.ts';
import { stillScreen } from '../run/still.ts';
import type { Finding } from '../walk/finding.ts';
import { eventWords } from '../walk/event-words.ts';
import { framesShowing, seenParts } from '../walk/per-scene.ts';

/** Draws the way to a loose end as a strip of frames, the place ringed in the last one: SVG, for the documents. */

const SCALE = 0.34;
const GAP = 74;
const HEAD = 30;
const INK = '#26232c';
const RING = '#b3452c';
/** Frames of a way that are drawn: the last ones. */
const MOST = 4;

const round = (value: number) => Math.round(value * 100) / 100;

interface Still {
  readonly screen: Screen;
  /** What is done there next. */
  readonly next: RunEvent | null;
}

export function drawFinding(program: Program, found: Finding): string {
  const stills = stillsTo(program, found);
  const { width, height } = stills[0]!.screen;
  const [w, h] = [width * SCALE, height * SCALE];
  const beyond = outside(stills.at(-1)!.screen, found);
  const whole = stills.length * w + (stills.length - 1) * GAP + 24 + beyond * SCALE;
  const drawn = stills.map((still, i) => {
    const x = 12 + i * (w + GAP);
    const name = program.piece.scenes.get(still.screen.frame)?.name ?? '';
    return [
      `<text x="${round(x)}" y="18" font-size="13" font-weight="600" fill="${INK}">${escaped(name)}</text>`,
      `<g transform="translate(${round(x)} ${HEAD})">${drawScreen(still.screen, i === stills.length - 1 ? found : null)}</g>`,
      still.next && i < stills.length - 1 ? arrow(x + w, HEAD + h / 2, eventWords(program, still.next)) : '',
    ].join('');
  });
  const sections = drawSections(program, found.place.scene, w);
  const tall = h + HEAD + 12 + (sections ? 34 : 0);
  if (sections) drawn.push(`<g transform="translate(${round(12 + (stills.length - 1) * (w + GAP))} ${round(HEAD + h + 12)})">${sections}</g>`);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${round(whole)}" height="${round(tall)}" viewBox="0 0 ${round(whole)} ${round(tall)}" font-family="system-ui, sans-serif" role="img" aria-label="${escaped(found.sentence)}">
<rect width="100%" height="100%" fill="#f3ecdd"/>
${drawn.join('\n')}
</svg>
`;
}

/** The last screens on the way to a finding; where there is no way, its scene as it begins. */
function stillsTo(program: Program, found: Finding): Still[] {
  const { route, place } = found;
  const begun = route && start(program, route.from);
  if (!route || !begun) return [{ screen: stillScreen(program, frameOf(program, place.scene))!, next: null }];
  const runs = [begun];
  for (const event of route.events) runs.push(advance(program, runs.at(-1)!, event).run);
  const all = runs.map((run, i) => ({ screen: resolveScreen(program, run), next: route.events[i] ?? null }));
  return all.slice(-MOST);
}

/** A frame on which a scene is seen; the first where it is none in particular. */
function frameOf(program: Program, scene: string | null): string {
  const seen = scene === null ? undefined : (seenParts(program).get(scene)?.scenes[0] ?? scene);
  return (seen === undefined ? undefined : framesShowing(program, seen)[0]) ?? program.frames[0]!;
}

function drawScreen(screen: Screen, found: Finding | null): string {
  const id = `v${screen.frame}`.replace(/\W/g, '');
  const surfaces = screen.surfaces.map(({ x, y, width, height, background, all }) =>
    [
      background ? `<rect x="${round(x)}" y="${round(y)}" width="${width}" height="${height}" fill="${background}"/>` : '',
      ...all.map(drawLayer),
    ].join('')
  );
  const whole = `<rect width="${screen.width}" height="${screen.height}" fill="#ffffff"/>`;
  return [
    `<clipPath id="${id}"><rect width="${screen.width}" height="${screen.height}"/></clipPath>`,
    `<g transform="scale(${SCALE})"><g clip-path="url(#${id})">${whole}${surfaces.join('')}</g>`,
    found && outside(screen, found) > 0 ? `<g opacity="0.6">${drawLayer(placedIn(screen, found)!)}</g>` : '',
    `<rect width="${screen.width}" height="${screen.height}" fill="none" stroke="${INK}" stroke-opacity="0.4" stroke-width="2"/>`,
    found ? ringAt(screen, found) : '',
    '</g>',
  ].join('');
}

function drawLayer(shown: Shown): string {
  const { layer } = shown.node;
  const { draws } = layerKind(layer);
  const { width, height, matrix, opacity, style, letters, text } = shown;
  const [w, h] = [round(width), round(height)];
  const fill = `fill="${style.fill ?? 'none'}" stroke="${style.line?.color ?? 'none'}" stroke-width="${style.line?.width ?? 0}"`;
  const dashed = `fill="none" stroke="${INK}" stroke-opacity="0.5" stroke-dasharray="6 5" stroke-width="2"`;
  const shape =
    layer.type === 'hit'
      ? `<rect width="${w}" height="${h}" ${dashed}/>`
      : layer.type === 'oval'
        ? `<ellipse cx="${w / 2}" cy="${h / 2}" rx="${w / 2}" ry="${h / 2}" ${fill}/>`
        : draws === 'film' || draws === 'picture'
          ? `<rect width="${w}" height="${h}" fill="#d8cdb8"/><path d="M${w / 2 - 16} ${h / 2 - 20}l36 20l-36 20z" fill="${INK}" fill-opacity="0.6"/>`
          : layer.type === 'field'
            ? `<rect width="${w}" height="${h}" rx="6" fill="#ffffff" stroke="${INK}" stroke-width="2"/>`
            : style.fill || style.line
              ? `<rect width="${w}" height="${h}" rx="${style.corner ?? 0}" ${fill}/>`
              : '';
  const size = letters.size ?? 16;
  const isProse = layerKind(layer).isProse === true;
  const words = text?.trim()
    ? `<text x="${isProse ? 0 : w / 2}" y="${round(isProse ? size : h / 2 + size * 0.36)}" font-size="${size}" text-anchor="${isProse ? 'start' : 'middle'}" fill="${style.ink ?? INK}">${escaped(text)}</text>`
    : '';
  if (!shape && !words) return '';
  const { a, b, c, d, e, f } = matrix;
  return `<g transform="matrix(${[a, b, c, d, e, f].map(round).join(' ')})"${opacity < 1 ? ` opacity="${opacity}"` : ''}>${shape}${words}</g>`;
}

const placedIn = ({ surfaces }: Screen, { place }: Finding): Shown | undefined =>
  place.layer === undefined ? undefined : surfaces.flatMap(({ all }) => all).find(({ node }) => node.layer.id === place.layer);

/** How far the layer that a finding is about stands out at the right, in CSS px. */
function outside(screen: Screen, found: Finding): number {
  const shown = placedIn(screen, found);
  const box = shown && boundsOf(shown);
  return box && box.x >= screen.width ? box.x + box.width + 20 - screen.width : 0;
}

/** A ring around the layer that a finding is about, or around its frame. */
function ringAt(screen: Screen, found: Finding): string {
  const { place } = found;
  const shown = placedIn(screen, found);
  const inside = { x: 0, y: 0, width: screen.width, height: screen.height };
  const box = shown ? boundsOf(shown) : place.scene === null ? null : inside;
  if (!box) return '';
  const x = Math.max(-8, box.x - 12);
  const y = Math.max(-8, box.y - 12);
  const right = Math.min(screen.width + 8 + outside(screen, found), box.x + box.width + 12);
  const bottom = Math.min(screen.height + 8, box.y + box.height + 12);
  if (right <= x || bottom <= y) return '';
  return `<rect x="${round(x)}" y="${round(y)}" width="${round(right - x)}" height="${round(bottom - y)}" rx="10" fill="none" stroke="${RING}" stroke-width="7"/>`;
}

/** The labelled sections of a timeline, with what stands beyond its end; null where there are none. */
function drawSections(program: Program, scene: string | null, width: number): string | null {
  const timeline = scene === null ? undefined : program.piece.scenes.get(scene)?.timeline;
  const labels = Object.values(timeline?.labels ?? {});
  if (!timeline || labels.length === 0) return null;
  const xOf = (at: number) => round((at / timeline.length) * width);
  const told = labels.map(
    ({ time, name }) =>
      `<path d="M${xOf(time)} 0v14" stroke="${INK}" stroke-width="1.5"/><text x="${xOf(time) + 3}" y="26" font-size="11" fill="${INK}">${escaped(name)}</text>`
  );
  return `<rect y="3" width="${round(width)}" height="6" rx="3" fill="#0f766e" fill-opacity="0.45"/>${told.join('')}`;
}

function arrow(x: number, y: number, words: string): string {
  const lines = words.split(' ').reduce<string[]>((all, word) => {
    const last = all.at(-1);
    if (last !== undefined && last.length + word.length < 11) return [...all.slice(0, -1), `${last} ${word}`];
    return [...all, word];
  }, []);
  const told = lines.map(
    (line, i) =>
      `<text x="${round(x + GAP / 2)}" y="${round(y - 10 - (lines.length - 1 - i) * 13)}" font-size="11" text-anchor="middle" fill="${INK}">${escaped(line)}</text>`
  );
  const line = `<path d="M${round(x + 8)} ${round(y)}H${round(x + GAP - 10)}m-7 -5l7 5l-7 5" fill="none" stroke="${INK}" stroke-width="1.5"/>`;
  return [...told, line].join('');
}
