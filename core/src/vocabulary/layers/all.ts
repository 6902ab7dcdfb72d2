import { box } from './box.ts';
import type { LayerKind } from './define.ts';
import { field } from './field.ts';
import { group } from './group.ts';
import { hit } from './hit.ts';
import { line } from './line.ts';
import { oval } from './oval.ts';
import { path } from './path.ts';
import { picture } from './picture.ts';
import { placement } from './placement.ts';
import { sound } from './sound.ts';
import { text } from './text.ts';
import { video } from './video.ts';

/** All types of layers. To add one: its file, and its line here. */
const all = [box, oval, line, path, text, picture, video, sound, field, group, placement, hit] as const;

export type LayerType = (typeof all)[number]['type'];

export type AnyLayerKind = LayerKind<LayerType>;

export const layerKinds = Object.fromEntries(all.map((kind) => [kind.type, kind])) as { readonly [T in LayerType]: AnyLayerKind };

interface Typed {
  readonly type: LayerType;
}

export const layerKind = ({ type }: Typed): AnyLayerKind => layerKinds[type];

export const isOutlined = (layer: Typed): boolean => layerKind(layer).draws === 'outline';

/** Films and sounds: what plays. */
export const isMediaLayer = (layer: Typed): boolean => layerKind(layer).draws === 'film' || layerKind(layer).draws === 'sound';

/** It is as large as what is in it: nothing of that is cut off or scrolled. */
export const isLoose = (layer: Typed & { readonly clip?: unknown; readonly scroll?: unknown }): boolean =>
  layerKind(layer).holdsLayers === true && !layer.clip && !layer.scroll;
