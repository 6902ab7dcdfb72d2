/** Where in a piece something is found: in a scene, at a layer, at a thread of it. */
export interface Place {
  readonly scene: string | null;
  readonly layer?: string;
  readonly thread?: string;
}
