import { faceRule, type DrawingSources, type SvgPicture } from '@zany/player/pictures';
import { pictureOnce } from '$lib/shared/thumb-paint';
import { inText } from '../../shared/in-text';

/** Where drawings have pictures and faces from, in a browser. */
export function sourcesHere(assetUrl: (asset: string) => string): DrawingSources {
  const files = new Map<string, string>();
  return {
    measuring: new OffscreenCanvas(1, 1).getContext('2d')!,
    picture: (asset, kind) => pictureFrom(assetUrl(asset), kind),
    ready: (fonts) => Promise.all([...fonts].map((font) => document.fonts.load(font).catch(() => []))),
    faces: (fonts) => facesFor(fonts, files),
  };
}

async function pictureFrom(url: string, kind: 'picture' | 'video'): Promise<SvgPicture | null> {
  const shown = await pictureOnce(url, kind);
  const href = shown && (kind === 'video' ? await stillOf(shown) : await dataOf(url));
  return shown && href !== null ? { width: shown.width, height: shown.height, href } : null;
}

/** The faces of some fonts, as rules with their files in them; files that were read are kept by their addresses. */
async function facesFor(fonts: ReadonlySet<string>, files: Map<string, string>): Promise<string> {
  const rules = [...document.styleSheets].flatMap((sheet) => [...sheet.cssRules]).filter((rule) => rule instanceof CSSFontFaceRule);
  const css: string[] = [];
  for (const { style, parentStyleSheet } of rules) {
    const family = style.getPropertyValue('font-family').replace(/^["']|["']$/g, '');
    const written = /url\("?([^")]+)"?\)/.exec(style.getPropertyValue('src'))?.[1];
    if (!written || ![...fonts].some((font) => font.includes(family))) continue;
    const url = new URL(written, parentStyleSheet?.href ?? document.baseURI).href;
    if (!files.has(url)) files.set(url, (await dataOf(url)) ?? '');
    const data = files.get(url)!;
    if (data) css.push(faceRule(family, style.getPropertyValue('font-weight'), data));
  }
  return [...new Set(css)].join('');
}

/** A file as an address that holds it; null where it cannot be had. */
async function dataOf(url: string): Promise<string | null> {
  const response = await fetch(url).catch(() => null);
  return response?.ok ? inText(await response.blob()) : null;
}

async function stillOf(picture: CanvasImageSource & { readonly width: number; readonly height: number }): Promise<string> {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  canvas.getContext('2d')!.drawImage(picture, 0, 0);
  return inText(await canvas.convertToBlob({ type: 'image/png' }));
}
