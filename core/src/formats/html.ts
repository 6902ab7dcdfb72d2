import { named } from './escaped.ts';
import { DEFAULT_FAMILY, faceOf } from '../piece/faces.ts';
import { setLetters } from '../piece/paint.ts';
import { lettersIn } from '../piece/painted.ts';
import type { Piece } from '../piece/piece.ts';
import { pieceToJson } from '../piece/read.ts';
import { expressionTrees } from './expressions.ts';
import type { AssetBytes } from './package.ts';

/** What an exported page is made of besides the piece. */
export interface PageParts {
  /** The player as one classic script. */
  readonly runtime: string;
  readonly css: string;
  /** The element for any page as one classic script; with it a piece can be a package for other programs. */
  readonly element: string;
  /** Font files by family, woff2. */
  readonly fonts: ReadonlyMap<string, Uint8Array>;
  /** Base64 of the SHA-256 of a text's UTF-8 bytes, as a content security policy wants it. */
  readonly hash: (text: string) => string;
  readonly base64: (bytes: Uint8Array) => string;
}

/**
 * One HTML file that shows and runs the piece with nothing else: its own strict content security policy allows the
 * inline blocks by their hashes, pictures and fonts from data addresses, and no network at all.
 */
export function htmlPage(piece: Piece, assets: AssetBytes, parts: PageParts): string {
  return page(piece, inside(piece, assets, parts, []));
}

/**
 * The same for a place that takes only so much and says itself where a press leads: web addresses that the piece opens give way to the
 * one in `clickTag` of the page's own address, where there is one. Its size stands in `ad.size`, as places for banners read it.
 */
export function bannerPage(piece: Piece, assets: AssetBytes, parts: PageParts): string {
  const { width, height } = piece.head;
  return page(piece, { ...inside(piece, assets, parts, [EXIT]), meta: `<meta name="ad.size" content="width=${width},height=${height}">\n` });
}

/** Runs before the player: what is opened on the web is the address that the page is given. */
const EXIT =
  "(()=>{const to=new URLSearchParams(location.search).get('clickTag')||'';if(!/^https?:\\/\\//i.test(to))return;const held=document.getElementById('data'),data=JSON.parse(held.textContent);for(const thread of Object.values(data.piece.threads))for(const branch of thread.branches)for(const step of branch.steps)if(step.do==='open'&&/^https?:/i.test(step.address))step.address=to;held.textContent=JSON.stringify(data)})()";

/** The page as files of their own for a web server, by name; its policy allows what comes from the same place. */
export function pageFiles(piece: Piece, assets: AssetBytes, parts: PageParts): Record<string, string | Uint8Array> {
  const files: Record<string, string | Uint8Array> = { 'piece.js': parts.runtime };
  const urls: Record<string, string> = {};
  for (const { id, mediaType } of shownAssets(piece, assets)) {
    urls[id] = `assets/${id}.${ENDINGS[mediaType]}`;
    files[urls[id]] = assets.get(id)!;
  }
  for (const family of familiesIn(piece)) if (parts.fonts.has(family)) files[`fonts/${faceOf(family)!.file}.woff2`] = parts.fonts.get(family)!;
  files['piece.css'] = `${parts.css}${fontFaces(piece, parts, (family) => `fonts/${faceOf(family)!.file}.woff2`)}`;
  const policy = ["default-src 'none'", "script-src 'self'", "style-src 'self'", "img-src 'self' data:", "media-src 'self'", "font-src 'self'"];
  files['index.html'] = page(piece, {
    policy,
    styles: '<link rel="stylesheet" href="piece.css">',
    data: dataOf(piece, urls),
    scripts: '<script src="piece.js"></script>',
    meta: '',
  });
  return files;
}

const ENDINGS: Readonly<Record<string, string>> = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/webp': 'webp',
  'image/svg+xml': 'svg',
  'video/webm': 'webm',
  'video/mp4': 'mp4',
  'audio/webm': 'weba',
  'audio/ogg': 'ogg',
  'audio/mpeg': 'mp3',
  'audio/wav': 'wav',
};

interface Made {
  readonly policy: readonly string[];
  readonly styles: string;
  readonly data: string;
  readonly scripts: string;
  readonly meta: string;
}

const shownAssets = (piece: Piece, assets: AssetBytes) => [...piece.assets.values()].filter((asset) => assets.has(asset.id));

const dataOf = (piece: Piece, urls: Readonly<Record<string, string>>): string =>
  JSON.stringify({ piece: pieceToJson(piece), expressions: expressionTrees(piece), assets: urls }).replaceAll('<', '\\u003c');

/** All in the page itself, with scripts that run before the player. */
function inside(piece: Piece, assets: AssetBytes, parts: PageParts, before: readonly string[]): Made {
  const urls = shownAssets(piece, assets).map(({ id, mediaType }) => [id, `data:${mediaType};base64,${parts.base64(assets.get(id)!)}`] as const);
  const css = `${parts.css}${fontFaces(piece, parts, (family) => `data:font/woff2;base64,${parts.base64(parts.fonts.get(family)!)}`)}`;
  const scripts = [...before, parts.runtime];
  return {
    policy: [
      "default-src 'none'",
      `script-src ${scripts.map((script) => `'sha256-${parts.hash(script)}'`).join(' ')}`,
      `style-src 'sha256-${parts.hash(css)}'`,
      'img-src data:',
      'media-src data:',
      'font-src data:',
    ],
    styles: `<style>${css}</style>`,
    data: dataOf(piece, Object.fromEntries(urls)),
    scripts: scripts.map((script) => `<script>${script}</script>`).join('\n'),
    meta: '',
  };
}

const page = (piece: Piece, { policy, styles, data, scripts, meta }: Made): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${[...policy, "base-uri 'none'", "form-action 'none'"].join('; ')}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
${meta}<title>${named(piece.head.name)}</title>
<link rel="icon" href="data:,">
${styles}
</head>
<body>
<main id="piece"></main>
<noscript>This piece needs JavaScript to run.</noscript>
<script type="application/json" id="data">${data}</script>
${scripts}
</body>
</html>
`;

/** Families that the piece's texts use; text without a family uses the first of the list. */
export function familiesIn(piece: Piece): Set<string> {
  const families = new Set<string>();
  for (const layer of piece.layers.values())
    if (layer.text || layer.field) families.add(setLetters(piece.head, layer.letters ?? {}).family ?? DEFAULT_FAMILY);
  for (const { value } of lettersIn(piece)) families.add(setLetters(piece.head, value).family ?? DEFAULT_FAMILY);
  return families;
}

function fontFaces(piece: Piece, { fonts }: PageParts, urlOf: (family: string) => string): string {
  return [...familiesIn(piece)]
    .filter((family) => fonts.has(family))
    .map((family) => `@font-face{font-family:"${family}";font-weight:${faceOf(family)!.weights.join(' ')};src:url(${urlOf(family)}) format("woff2")}`)
    .join('');
}
