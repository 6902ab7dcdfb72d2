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
  /** Font files by family, woff2. */
  readonly fonts: ReadonlyMap<string, Uint8Array>;
  /** Base64 of the SHA-256 of a text's UTF-8 bytes, as a content security policy wants it. */
  readonly hash: (text: string) => string;
  readonly base64: (bytes: Uint8Array) => string;
}

/**
 * One HTML file that shows and runs the piece with nothing else: its own strict content security policy allows the two
 * inline blocks by their hashes, pictures and fonts from data addresses, and no network at all.
 */
export function htmlPage(piece: Piece, assets: AssetBytes, parts: PageParts): string {
  const used = [...piece.assets.values()].filter((asset) => assets.has(asset.id));
  const data = {
    piece: pieceToJson(piece),
    expressions: expressionTrees(piece),
    assets: Object.fromEntries(used.map((asset) => [asset.id, `data:${asset.mediaType};base64,${parts.base64(assets.get(asset.id)!)}`])),
  };
  const css = `${parts.css}${fontFaces(piece, parts)}`;
  const policy = [
    "default-src 'none'",
    `script-src 'sha256-${parts.hash(parts.runtime)}'`,
    `style-src 'sha256-${parts.hash(css)}'`,
    'img-src data:',
    'media-src data:',
    'font-src data:',
    "base-uri 'none'",
    "form-action 'none'",
  ].join('; ');
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta http-equiv="Content-Security-Policy" content="${policy}">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
<title>${named(piece.head.name)}</title>
<link rel="icon" href="data:,">
<style>${css}</style>
</head>
<body>
<main id="piece"></main>
<noscript>This piece needs JavaScript to run.</noscript>
<script type="application/json" id="data">${JSON.stringify(data).replaceAll('<', '\\u003c')}</script>
<script>${parts.runtime}</script>
</body>
</html>
`;
}

/** Families that the piece's texts use; text without a family uses the first of the list. */
export function familiesIn(piece: Piece): Set<string> {
  const families = new Set<string>();
  for (const layer of piece.layers.values())
    if (layer.text || layer.field) families.add(setLetters(piece.head, layer.letters ?? {}).family ?? DEFAULT_FAMILY);
  for (const { value } of lettersIn(piece)) families.add(setLetters(piece.head, value).family ?? DEFAULT_FAMILY);
  return families;
}

function fontFaces(piece: Piece, { fonts, base64 }: PageParts): string {
  return [...familiesIn(piece)]
    .filter((family) => fonts.has(family))
    .map(
      (family) =>
        `@font-face{font-family:"${family}";font-weight:${faceOf(family)!.weights.join(' ')};src:url(data:font/woff2;base64,${base64(fonts.get(family)!)}) format("woff2")}`
    )
    .join('');
}
