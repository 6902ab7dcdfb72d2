/**
 * What is seen of a layer: a ground with words in it, an outline, a picture, a film, nothing but a sound, a control, the layers in it,
 * or nothing at all.
 */
export type Drawing = 'ground' | 'outline' | 'picture' | 'film' | 'sound' | 'field' | 'layers' | 'nothing';

/** What a type of layer is. */
export interface LayerKind<T extends string = string> {
  readonly type: T;
  /** In sentences and lists. */
  readonly words: string;
  readonly meaning: string;
  readonly draws: Drawing;
  /** Of an outline: the one it has where the layer gives none, as SVG path data in a box of 100 by 100. */
  readonly outline?: string;
  /** Of an outline: it is a stroke only, as wide as is said here where the layer says nothing, in CSS px, and its fill is its colour. */
  readonly stroke?: number;
  /** Its ground is an ellipse. */
  readonly isRound?: true;
  /** Words are what it is for: they begin at its left, and it is as large as they are. */
  readonly isProse?: true;
  /** Words can be written in it. */
  readonly takesWords?: true;
  /** Layers can be put into it. */
  readonly holdsLayers?: true;
  /** Files of these types can be shown by it: the beginnings of media types. */
  readonly shows?: string;
}

export const defineLayer = <const T extends string>(kind: LayerKind<T>): LayerKind<T> => kind;
