import type { Item, SceneProgram } from '@zany/core/engine';
import { appearanceOf, dress, type Pointing } from './appearance.ts';

export interface SceneOptions {
  /** The address of a picture file. */
  readonly assetUrl: (asset: string) => string;
  /** Wired layers become real buttons and links for keyboards and screen readers. */
  readonly live: boolean;
}

const none: ReadonlySet<string> = new Set();

/** A scene as elements: one for each shown layer, patched when the scene or the pointer changes. CSS pixels, unscaled. */
export class SceneView {
  readonly root: HTMLElement;
  private scene: SceneProgram | null = null;
  private readonly views = new Map<string, { element: HTMLElement; item: Item; pointing: string }>();
  private over: ReadonlySet<string> = none;
  private pressed: ReadonlySet<string> = none;

  constructor(
    document: Document,
    private readonly options: SceneOptions
  ) {
    this.root = document.createElement('div');
    this.root.className = 'zany-scene';
  }

  /** Shows a scene; layers that are the same object as before are left alone. */
  show(scene: SceneProgram): void {
    if (scene === this.scene) return;
    this.scene = scene;
    const { style } = this.root;
    style.width = `${scene.scene.width}px`;
    style.height = `${scene.scene.height}px`;
    style.background = scene.scene.background;
    const roots = scene.items.filter((item) => item.parent === null);
    this.place(this.root, roots, { x: 0, y: 0 });
    for (const [id, view] of this.views)
      if (!scene.byId.get(id)?.shown) {
        view.element.remove();
        this.views.delete(id);
      }
  }

  /** Puts on the looks of the layers that the pointer is over and that are pressed. */
  point(over: Iterable<string>, pressed: Iterable<string>): void {
    this.over = new Set(over);
    this.pressed = new Set(pressed);
    for (const view of this.views.values()) this.dressView(view, false);
  }

  elementOf(layer: string): HTMLElement | null {
    return this.views.get(layer)?.element ?? null;
  }

  /** Puts the elements of items into their container, back to front, moving only those that stand elsewhere. */
  private place(container: HTMLElement, items: readonly Item[], origin: { x: number; y: number }): void {
    const elements = items.filter((item) => item.shown).map((item) => ({ item, element: this.viewOf(item).element }));
    let cursor: Element | null = container.firstElementChild;
    for (const { item, element } of elements) {
      if (element === cursor) cursor = cursor.nextElementSibling;
      else container.insertBefore(element, cursor);
      const { style } = element;
      style.left = `${item.box.x - origin.x}px`;
      style.top = `${item.box.y - origin.y}px`;
      style.width = `${item.box.width}px`;
      style.height = `${item.box.height}px`;
      if (item.children.length) this.place(element, item.children, item.box);
    }
  }

  private viewOf(item: Item): { element: HTMLElement; item: Item; pointing: string } {
    const old = this.views.get(item.layer.id);
    if (old && old.item.layer.type === item.layer.type && (!this.options.live || roleOf(old.item) === roleOf(item))) {
      const changed = old.item.layer !== item.layer;
      old.item = item;
      if (changed) this.dressView(old, true);
      return old;
    }
    old?.element.remove();
    const element = this.make(item);
    const view = { element, item, pointing: '' };
    this.views.set(item.layer.id, view);
    this.dressView(view, true);
    return view;
  }

  private make(item: Item): HTMLElement {
    const { layer } = item;
    const document = this.root.ownerDocument;
    const element = document.createElement('div');
    element.className = `zany-layer zany-${layer.type}`;
    element.dataset['layer'] = layer.id;
    if (layer.type === 'picture') {
      const img = document.createElement('img');
      img.draggable = false;
      element.append(img);
    }
    const role = this.options.live ? roleOf(item) : null;
    if (role) {
      element.setAttribute('role', role);
      element.tabIndex = 0;
    }
    return element;
  }

  private dressView(view: { element: HTMLElement; item: Item; pointing: string }, always: boolean): void {
    const { element, item } = view;
    const { layer } = item;
    const pointing: Pointing = { hover: this.over.has(layer.id), press: this.pressed.has(layer.id) };
    const key = `${pointing.hover}${pointing.press}`;
    if (!always && key === view.pointing) return;
    view.pointing = key;
    const appearance = appearanceOf(layer, pointing);
    dress(element, layer, appearance);
    if (layer.type === 'picture') this.dressPicture(element, item);
    else if (layer.type !== 'group') writeText(element, appearance.text);
    if (this.options.live && roleOf(item)) element.setAttribute('aria-label', nameOf(item));
  }

  private dressPicture(element: HTMLElement, item: Item): void {
    const img = element.firstElementChild as HTMLImageElement;
    const url = this.options.assetUrl(item.layer.asset ?? '');
    if (img.getAttribute('src') !== url) img.src = url;
    img.alt = this.options.live && roleOf(item) ? '' : item.layer.name;
    img.style.objectFit = item.layer.fit ?? 'fill';
    img.style.borderRadius = 'inherit';
  }
}

function writeText(element: HTMLElement, text: string | undefined): void {
  if (text === undefined) {
    if (element.firstChild) element.replaceChildren();
    return;
  }
  const old = element.firstElementChild;
  const span = old ?? element.ownerDocument.createElement('span');
  if (span.textContent !== text) span.textContent = text;
  if (!old) element.append(span);
}

/** What a wired layer is to assistive technology; null for one that takes no click. */
function roleOf(item: Item): 'button' | 'link' | null {
  const clicks = item.threads.filter((thread) => thread.enabled && thread.cue.type === 'click');
  if (clicks.length === 0) return null;
  const steps = clicks.flatMap((thread) => thread.branches[0]?.steps ?? []);
  return steps.length > 0 && steps.every((step) => step.do === 'open') ? 'link' : 'button';
}

/** What is written on a layer, or in a group, else its name. */
function nameOf(item: Item): string {
  if (item.layer.text?.trim()) return item.layer.text;
  const inside = item.children.map((child) => child.layer.text ?? '').filter(Boolean);
  return inside.length ? inside.join(' ') : item.layer.name;
}
