import sharp from 'sharp';
import type { Asset } from '@zany/core';
import { limits } from './config';
import { Refusal } from './refusal';
import { cleanSvg } from './svg/clean';

export interface TakenPicture {
  readonly bytes: Buffer;
  readonly mediaType: Asset['mediaType'];
  /** CSS pixels. */
  readonly width: number;
  readonly height: number;
}

/** What each ending has to hold, as sharp names formats. */
const endings: Record<string, string> = { png: 'png', jpg: 'jpeg', jpeg: 'jpeg', webp: 'webp', svg: 'svg' };
const names: Record<string, string> = {
  png: 'PNG',
  jpeg: 'JPEG',
  webp: 'WebP',
  svg: 'SVG',
  gif: 'GIF',
  heif: 'HEIF or AVIF',
  tiff: 'TIFF',
  pdf: 'PDF',
};

/**
 * Decodes a picture and writes it anew, so that nothing but the picture is kept. Refuses what is broken, too large, or
 * something else than its name says, in a sentence that names the file.
 */
export async function takePicture(file: string, bytes: Uint8Array): Promise<TakenPicture> {
  const refuse = (why: string): never => {
    throw new Refusal('unreadable', `${file} ${why}`, [file]);
  };
  const wanted = endings[/\.([a-z0-9]+)$/i.exec(file)?.[1]?.toLowerCase() ?? ''];
  if (!wanted) return refuse('is no PNG, JPEG, WebP or SVG file.');
  if (bytes.length === 0) return refuse('is empty.');
  if (bytes.length > limits.picture) return refuse(`has ${megabytes(bytes.length)}; at most ${megabytes(limits.picture)} can be taken in.`);
  if (wanted === 'svg') return takeSvg(bytes, refuse);
  const meta = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => refuse('is broken, or no picture at all.'));
  if (meta.format !== wanted)
    return refuse(`is named as ${names[wanted]} but holds ${names[meta.format] ?? meta.format}. Rename it and bring it in again.`);
  if (meta.width * meta.height > limits.pixels)
    return refuse(`has ${meta.width} × ${meta.height} pixels; at most ${limits.pixels / 1e6} million can be taken in.`);
  const upright = sharp(bytes, { limitInputPixels: limits.pixels, failOn: 'error' }).autoOrient().timeout({ seconds: 20 });
  const encoded = { png: () => upright.png(), jpeg: () => upright.jpeg({ quality: 90 }), webp: () => upright.webp({ quality: 90 }) }[
    wanted as 'png'
  ]();
  const { data, info } = await encoded.toBuffer({ resolveWithObject: true }).catch(() => refuse('is broken: only part of the picture is there.'));
  return { bytes: data, mediaType: `image/${wanted}` as Asset['mediaType'], width: info.width, height: info.height };
}

async function takeSvg(bytes: Uint8Array, refuse: (why: string) => never): Promise<TakenPicture> {
  if (bytes.length > limits.svg) return refuse(`has ${megabytes(bytes.length)}; an SVG can have at most ${megabytes(limits.svg)}.`);
  const cleaned = await cleanSvg(new TextDecoder().decode(bytes));
  if (!cleaned.ok) return refuse(cleaned.error);
  const { text, width, height } = cleaned.value;
  return { bytes: Buffer.from(text), mediaType: 'image/svg+xml', width, height };
}

const megabytes = (size: number) => `${Math.round(size / 100_000) / 10} MB`;
