/** What the worker that lays the map out is told, and what it answers. CSS pixels of the map. */

export interface LayoutTask {
  readonly version: number;
  readonly frames: readonly { readonly id: string; readonly width: number; readonly height: number; readonly bundle: string | null }[];
  /** Which frame leads to which, each pair once. */
  readonly links: readonly (readonly [string, string])[];
  readonly start: readonly string[];
  /** By a frame that is only laid over one other, that one. */
  readonly under: ReadonlyMap<string, string>;
}

export interface LayoutAnswer {
  readonly version: number;
  readonly places: ReadonlyMap<string, { readonly x: number; readonly y: number }>;
  readonly width: number;
  readonly height: number;
}
