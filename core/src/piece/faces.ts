/** A typeface that comes with the studio and goes into exported pages, under the SIL Open Font Licence. */
export interface Face {
  /** Its package and files, as they are named. */
  readonly file: string;
  /** From the lightest to the boldest. */
  readonly weights: readonly [number, number];
  /** What stands in where it is missing. */
  readonly like: 'sans-serif' | 'serif' | 'monospace' | 'cursive';
}

const defineFace = (face: Face): Face => face;

/** The bundled faces by their families, the usual one first. */
export const FACES = {
  'Atkinson Hyperlegible Next': defineFace({ file: 'atkinson-hyperlegible-next', weights: [200, 800], like: 'sans-serif' }),
  'Bricolage Grotesque': defineFace({ file: 'bricolage-grotesque', weights: [200, 800], like: 'sans-serif' }),
  Nunito: defineFace({ file: 'nunito', weights: [200, 1000], like: 'sans-serif' }),
  Literata: defineFace({ file: 'literata', weights: [200, 900], like: 'serif' }),
  'Source Code Pro': defineFace({ file: 'source-code-pro', weights: [200, 900], like: 'monospace' }),
  Caveat: defineFace({ file: 'caveat', weights: [400, 700], like: 'cursive' }),
} as const satisfies Record<string, Face>;

export const DEFAULT_FAMILY = 'Atkinson Hyperlegible Next';

/** What letters can be set in: a bundled face, or what the device has of a kind. */
export const FAMILIES = [...(Object.keys(FACES) as (keyof typeof FACES)[]), 'sans-serif', 'serif', 'monospace'] as const;

/** What letters can be set in by a name that others write; undefined for what is not here. */
export const familyNamed = (name: string): (typeof FAMILIES)[number] | undefined =>
  FAMILIES.find((known) => known.toLowerCase() === name.trim().toLowerCase());

export const faceOf = (family: string): Face | undefined => (FACES as Record<string, Face>)[family];
