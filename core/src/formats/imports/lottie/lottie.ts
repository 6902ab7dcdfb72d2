import type { MakeId } from '../../../edit/make-id.ts';
import { keysBetween } from '../../../edit/order.ts';
import type { Operation } from '../../../edit/operation.ts';
import { scenesOf, type Asset, type Layer, type Piece, type Scene } from '../../../piece/piece.ts';
import { framesPerSecond } from '../../../run/playhead.ts';
import { onceFor } from '../../../once.ts';
import { fail, fault, ok, type Result } from '../../../result.ts';
import { isRecord } from '../../../record.ts';
import { nameFrom } from '../../../text.ts';
import { count, takeName } from '../../../words.ts';
import { defineImport, type CameIn } from '../define.ts';
import { readObject } from '../json.ts';
import { fromBase64 } from './base64.ts';
import { isZip, unpacked, type Packed } from './packed.ts';
import { AnimationReading } from './reading.ts';
import { listIn, numberOf, type Json } from './values.ts';

const LIMITS = { depth: 100, values: 2_000_000, bytes: 60_000_000 } as const;

export const lottieAnimation = defineImport({
  kind: 'lottie',
  label: 'Lottie animations',
  meaning: 'a part with a timeline: shapes, words and pictures as layers, what moves as keyframes, markers as labels',
  endings: ['.json', '.lottie'],
  fits: (bytes) => {
    const read = animationIn(bytes);
    return read.ok && 'op' in read.value.json;
  },
  pictures: (bytes) => {
    const read = animationIn(bytes);
    if (!read.ok) return read;
    const files = new Map<string, Uint8Array>();
    const { json, packed } = read.value;
    for (const asset of listIn(json['assets']).filter(isRecord)) {
      const file = String(asset['p'] ?? '');
      const [, coded, data] = /^data:image\/(png|jpe?g|webp);base64,(.*)$/s.exec(file) ?? [];
      const ending = coded ?? /\.(png|jpe?g|webp)$/i.exec(file)?.[1]?.toLowerCase();
      const beside = ending === undefined ? null : (packed?.picture(String(asset['u'] ?? ''), file) ?? null);
      const picture = data === undefined ? beside : fromBase64(data);
      if (picture) files.set(`${String(asset['id'])}.${ending}`, picture);
    }
    return ok(files);
  },
  read: (piece, bytes, makeId, assets) => {
    const read = animationIn(bytes);
    return read.ok ? ok(partOf(piece, read.value, assets, makeId)) : read;
  },
});

/** An animation as JSON; a fault for anything else. It is asked for what it is, for its pictures, and then for all of it. */
const animationIn = onceFor((bytes: Uint8Array): Result<Found> => {
  const opened = isZip(bytes) ? unpacked(bytes) : null;
  if (opened && !opened.ok) return opened;
  const packed = opened?.value ?? null;
  const read = readObject(packed?.animation ?? bytes, LIMITS, 'animation');
  if (!read.ok) return read;
  return Array.isArray(read.value['layers'])
    ? ok({ json: read.value, packed })
    : fail(fault('no-animation', [], 'This holds no animation: it has no layers.'));
});

interface Found {
  readonly json: Json;
  /** The zip that it is in; null where it is a file by itself. */
  readonly packed: Packed | null;
}

/** Timeline frames of a part at most. */
const MOST = 3000;

function partOf(piece: Piece, { json, packed }: Found, assets: ReadonlyMap<string, Asset>, makeId: MakeId): CameIn {
  const left = (packed?.others ?? []).map((name) => `the animation ${name}, which is in the same file`);
  const [begin, end] = [numberOf(json['ip'], 0), numberOf(json['op'], 1)];
  const by = Math.min(1000, Math.max(0.1, numberOf(json['fr'], 24))) / framesPerSecond({ piece });
  const wanted = Math.max(1, Math.round((end - begin) / by));
  const length = Math.min(MOST, wanted);
  if (length < wanted) left.push(`what comes after ${MOST} of its ${wanted} timeline frames`);
  const side = (value: unknown) => Math.min(20_000, Math.max(1, Math.round(numberOf(value, 100))));
  const there = scenesOf(piece, 'part');
  const name = takeName(new Set(there.map((part) => part.name)), nameFrom(String(json['nm'] ?? ''), 'Animation'));
  const id = makeId();
  const reading = new AnimationReading({ json, scene: id, length, frameAt: (time) => begin + time * by, assets, makeId, left });
  const layers = reading.layers();
  const markers = listIn(json['markers'])
    .filter(isRecord)
    .flatMap((marker) => {
      const time = Math.round((numberOf(marker['tm'], 0) - begin) / by);
      return time >= 0 && time < length ? [{ time, name: nameFrom(String(marker['cm'] ?? ''), 'Marker') }] : [];
    });
  const taken = new Set<string>();
  const times = new Set<number>();
  const labels = markers.flatMap((marker) => (times.has(marker.time) ? [] : (times.add(marker.time), [marker])));
  const scene: Scene = {
    id,
    use: 'part',
    name,
    order: keysBetween(there.at(-1)?.order ?? null, null, 1)[0]!,
    width: side(json['w']),
    height: side(json['h']),
    background: '#ffffff00',
    timeline: {
      length,
      ...(labels.length && {
        labels: Object.fromEntries(
          labels.map(({ time, name: wantedName }) => [makeId(), { time, name: takeName(taken, wantedName), ending: { do: 'go on' as const } }])
        ),
      }),
      ...reading.time(),
    },
  };
  const shown = new Set(layers.map(({ asset }) => asset));
  const pictures = [...new Map([...assets.values()].map((asset) => [asset.id, asset] as const)).values()].filter(
    (asset) => shown.has(asset.id) && !piece.assets.has(asset.id)
  );
  const operations: Operation[] = [
    ...pictures.map((value): Operation => ({ op: 'put', table: 'assets', value })),
    { op: 'put', table: 'scenes', value: scene },
    ...layers.map((value: Layer): Operation => ({ op: 'put', table: 'layers', value })),
  ];
  if (listIn(json['chars']).length) left.push('its letters as outlines: words are set in the usual typeface');
  return { operations, made: [`the part ${name} with ${count(layers.length, 'layer')}`], left: [...new Set(left)] };
}
