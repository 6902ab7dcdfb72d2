import {
  DEFAULT_INK,
  layerKind,
  countedText,
  isFocusable,
  outlinesOf,
  takesClicks,
  typedPart,
  valueOfField,
  valuesOf,
  type Layer,
  type Node,
  type Picture,
  type Pictured,
  type RunState,
  type Shown,
  type Value,
  type Values,
} from '@zany/core/engine';
import { dashOf, dress, fieldWords, placeElement, Styles } from './appearance.ts';
import { makeControl, showValue, type Control } from './fields.ts';
import { canBeSelected, nameOf, roleOf } from './roles.ts';

export interface ScreenOptions {
  /** The address of a picture, video or sound file. */
  readonly assetUrl: (asset: string) => string;
  /** Wired layers become real buttons and links, fields real controls, media real players. */
  readonly live: boolean;
  /** It is not live, but looked at from moment to moment: layers stand where a live one would have them, to parts of a pixel. */
  moves?: boolean;
  /** Videos and sounds have players even so, which stand still until they are told otherwise. */
  readonly media?: boolean;
  readonly onValue?: (layer: string, value: Value) => void;
  readonly onPlayedOut?: (layer: string) => void;
}

interface LayerView {
  readonly element: HTMLElement;
  readonly styles: Styles;
  /** Where the layers in it go; the element itself where nothing scrolls or is scaled. */
  readonly inner: HTMLElement;
  readonly innerStyles: Styles;
  readonly node: Node;
  shown: Shown;
  control: Control | null;
  moving: boolean;
}

interface SceneView {
  readonly element: HTMLElement;
  readonly styles: Styles;
  readonly ground: HTMLElement;
  readonly groundStyles: Styles;
  readonly layers: Map<string, LayerView>;
  scroll: string;
}

/** A screen as elements, patched as pictures of it change. CSS pixels, unscaled. */
export class ScreenView {
  readonly root: HTMLElement;
  private readonly scenes = new Map<string, SceneView>();
  private run: RunState | null = null;

  constructor(
    private readonly document: Document,
    private readonly options: ScreenOptions
  ) {
    this.root = document.createElement('div');
    this.root.className = 'zany-screen';
  }

  /** Shows a picture. `run` is where the values of fields come from. */
  show(picture: Picture, run: RunState | null = null): void {
    this.run = run;
    const shown = new Set<string>();
    picture.scenes.forEach((pictured, depth) => {
      const id = pictured.surface.scene;
      shown.add(id);
      this.showScene(pictured, depth, picture.values);
    });
    for (const [id, view] of this.scenes)
      if (!shown.has(id)) {
        this.stopMedia(view);
        view.element.remove();
        this.scenes.delete(id);
      }
    const { style } = this.root;
    style.width = `${picture.width}px`;
    style.height = `${picture.height}px`;
  }

  /** The next moment of a picture that is shown already: only what moves is touched. */
  move(picture: Picture): void {
    picture.scenes.forEach((pictured, depth) => {
      const view = this.scenes.get(pictured.surface.scene);
      if (!view || pictured.ghosts.size || view.layers.size === 0) return this.showScene(pictured, depth, picture.values);
      this.placeScene(view, pictured, depth);
      for (const layer of view.layers.values()) {
        const values = picture.values.get(layer.node.key);
        if (!values && !layer.moving) continue;
        layer.moving = values !== undefined;
        this.dressLayer(layer, layer.shown, values ?? valuesOf(layer.shown), pictured);
      }
    });
    if (this.scenes.size > picture.scenes.length) this.show(picture, this.run);
  }

  /** The element of a layer of a scene that is not on its way out. */
  elementOf(key: string): HTMLElement | null {
    for (const view of this.scenes.values()) {
      const found = view.element.inert ? undefined : view.layers.get(key);
      if (found) return found.element;
    }
    return null;
  }

  /** The player of a video or sound. */
  mediaOf(key: string): HTMLMediaElement | null {
    return this.elementOf(key)?.querySelector<HTMLMediaElement>('video, audio') ?? null;
  }

  private showScene(pictured: Pictured, depth: number, values: Picture['values']): void {
    const { surface } = pictured;
    let view = this.scenes.get(surface.scene);
    if (!view) this.scenes.set(surface.scene, (view = this.makeScene(surface.scene)));
    this.placeScene(view, pictured, depth);
    const alive = new Set<string>();
    this.fill(view, view.ground, surface.tops, '', pictured, values, alive);
    for (const [key, layer] of view.layers)
      if (!alive.has(key)) {
        layer.element.remove();
        view.layers.delete(key);
      }
  }

  private makeScene(scene: string): SceneView {
    const element = this.document.createElement('div');
    element.className = 'zany-scene';
    element.dataset['frame'] = scene;
    const ground = this.document.createElement('div');
    ground.className = 'zany-ground';
    element.append(ground);
    this.root.append(element);
    return { element, styles: new Styles(element.style), ground, groundStyles: new Styles(ground.style), layers: new Map(), scroll: '' };
  }

  private placeScene(view: SceneView, { surface, x, y, opacity, cut, background, isLeaving, scroll }: Pictured, depth: number): void {
    const { styles } = view;
    styles.set('width', `${surface.width}px`);
    styles.set('height', `${surface.height}px`);
    styles.set('transform', x || y ? `translate(${x}px, ${y}px)` : '');
    styles.set('opacity', opacity === 1 ? '' : String(opacity));
    styles.set('z-index', String(depth));
    styles.set('background-color', background ?? '');
    styles.set('clip-path', cut.some((side) => side > 0) ? `inset(${cut[1]}px ${cut[2]}px ${cut[3]}px ${cut[0]}px)` : '');
    styles.set('box-shadow', surface.scrim !== null ? `0 0 0 9999px rgb(0 0 0 / ${surface.scrim * opacity})` : '');
    if (view.element.inert !== isLeaving) view.element.inert = isLeaving;
    view.scroll = `${scroll.x} ${scroll.y}`;
  }

  /** Puts the layers of a scene, group or part into their element, those that fade away among them. */
  private fill(
    scene: SceneView,
    container: HTMLElement,
    list: readonly Shown[],
    parent: string,
    pictured: Pictured,
    values: Picture['values'],
    alive: Set<string>
  ): void {
    const ghosts = pictured.ghosts.get(parent) ?? [];
    const entries = list.map((shown) => ({ shown, values: values.get(shown.node.key) ?? valuesOf(shown), isGhost: false }));
    for (const ghost of ghosts) if (!alive.has(ghost.shown.node.key)) entries.push({ ...ghost, isGhost: true });
    const views = entries.map((entry) => {
      const key = entry.isGhost ? `ghost ${entry.shown.node.key}` : entry.shown.node.key;
      alive.add(key);
      const view = this.viewOf(scene, key, entry.shown);
      view.moving = values.has(entry.shown.node.key);
      this.dressLayer(view, entry.shown, entry.values, pictured);
      if (this.options.live) view.styles.set('z-index', String(entry.shown.node.at + 1));
      if (entry.isGhost) view.element.inert = true;
      if (entry.shown.children.length || view.inner.childElementCount)
        this.fill(scene, view.inner, entry.shown.children, entry.isGhost ? '-' : entry.shown.node.key, pictured, values, alive);
      return view;
    });
    this.order(container, views);
  }

  /**
   * Elements of a live piece stand in the order they are read: rows from the top, each from the left; what is in front is said
   * by z-index. In a still one nobody reads them, and they stand from the back to the front.
   */
  private order(container: HTMLElement, views: readonly LayerView[]): void {
    const before = this.options.live
      ? (a: Shown, b: Shown) => a.y + a.height / 2 - (b.y + b.height / 2) || a.x - b.x
      : (a: Shown, b: Shown) => a.node.at - b.node.at;
    const sorted = views.length > 1 ? [...views].sort((a, b) => before(a.shown, b.shown)) : views;
    let cursor = container.firstElementChild;
    while (cursor && !(cursor as HTMLElement).classList.contains('zany-layer')) cursor = cursor.nextElementSibling;
    for (const { element } of sorted) {
      // What has the focus would lose it on its way, so all that stands before it goes behind.
      if (element !== cursor && element.parentElement === container && this.hasFocus(element))
        while (cursor && cursor !== element) {
          const next: Element | null = cursor.nextElementSibling;
          container.append(cursor);
          cursor = next;
        }
      if (element === cursor) cursor = cursor.nextElementSibling;
      else container.insertBefore(element, cursor);
    }
  }

  private hasFocus(element: HTMLElement): boolean {
    return element.contains((this.root.getRootNode() as Document | ShadowRoot).activeElement);
  }

  private viewOf(scene: SceneView, key: string, shown: Shown): LayerView {
    const old = scene.layers.get(key);
    if (old && old.node.layer.type === shown.node.layer.type && (old.node === shown.node || !needsRemaking(old.node, shown.node))) {
      if (old.node !== shown.node) (old as { node: Node }).node = shown.node;
      return old;
    }
    old?.element.remove();
    const view = this.make(shown);
    scene.layers.set(key, view);
    return view;
  }

  private make(shown: Shown): LayerView {
    const { node } = shown;
    const { layer } = node;
    const element = this.document.createElement('div');
    element.className = `zany-layer zany-${layer.type}`;
    element.dataset['layer'] = node.key;
    const needsInner = node.inside !== null || layer.scroll !== undefined;
    const inner = needsInner ? this.document.createElement('div') : element;
    if (needsInner) {
      inner.className = 'zany-inner';
      element.append(inner);
    }
    const control =
      layer.type === 'field' && this.options.live ? makeControl(this.document, node, (value) => this.options.onValue?.(node.key, value)) : null;
    const content = control ?? this.contentOf(node);
    if (content) element.append(content);
    if (layer.clip || layer.scroll) element.classList.add('zany-clip');
    return {
      element,
      styles: new Styles(element.style),
      inner,
      innerStyles: needsInner ? new Styles(inner.style) : new Styles(element.style),
      node,
      shown,
      control,
      moving: false,
    };
  }

  private contentOf(node: Node): Element | null {
    const { layer } = node;
    switch (layerKind(layer).draws) {
      case 'picture': {
        const img = this.document.createElement('img');
        img.draggable = false;
        return img;
      }
      case 'outline': {
        const svg = this.document.createElementNS('http://www.w3.org/2000/svg', 'svg');
        svg.setAttribute('viewBox', '0 0 100 100');
        svg.setAttribute('preserveAspectRatio', 'none');
        svg.setAttribute('aria-hidden', 'true');
        svg.append(this.document.createElementNS('http://www.w3.org/2000/svg', 'path'));
        return svg;
      }
      case 'film':
      case 'sound':
        return this.options.live || this.options.media ? this.mediaElement(node) : null;
      default:
        return null;
    }
  }

  private mediaElement(node: Node): HTMLMediaElement {
    const { layer } = node;
    const media = this.document.createElement(layerKind(layer).draws === 'film' ? 'video' : 'audio');
    media.preload = 'auto';
    const { from, to, loop = false } = layer.media ?? {};
    // A part of it comes round by hand; the browser knows only the whole.
    media.loop = loop && from === undefined && to === undefined;
    if (from !== undefined) media.dataset['from'] = String(from);
    if (to !== undefined) media.dataset['to'] = String(to);
    if (loop) media.dataset['loop'] = '';
    media.muted = layer.media?.muted === true;
    if (media instanceof HTMLVideoElement) media.playsInline = true;
    media.setAttribute('aria-label', layer.label ?? layer.name);
    media.addEventListener('ended', () => this.options.onPlayedOut?.(node.key));
    return media;
  }

  private stopMedia(view: SceneView): void {
    for (const media of view.element.querySelectorAll<HTMLMediaElement>('video, audio')) media.pause();
  }

  private dressLayer(view: LayerView, shown: Shown, values: Values, pictured: Pictured): void {
    view.shown = shown;
    const { layer } = shown.node;
    placeElement(
      view.styles,
      shown,
      shown.parent === null ? scrolled(shown, values, pictured) : values,
      this.options.live || this.options.moves === true
    );
    dress(view.styles, shown, values);
    if (view.inner !== view.element) this.placeInner(view, shown, values);
    this.dressContent(view, shown, values, pictured.surface.scene);
    if (this.options.live && layer.type !== 'field') this.dressRole(view.element, shown);
  }

  private placeInner(view: LayerView, { node }: Shown, values: Values): void {
    if (node.inside) {
      const { width, height } = node.inside.scene.scene;
      const [sx, sy] = [values.width / width, values.height / height];
      view.innerStyles.set('width', `${width}px`);
      view.innerStyles.set('height', `${height}px`);
      view.innerStyles.set('transform', sx === 1 && sy === 1 ? '' : `scale(${sx}, ${sy})`);
    } else view.innerStyles.set('transform', values.scrollX || values.scrollY ? `translate(${-values.scrollX}px, ${-values.scrollY}px)` : '');
  }

  private dressContent(view: LayerView, shown: Shown, values: Values, scene: string): void {
    const { layer } = shown.node;
    const { element } = view;
    switch (layerKind(layer).draws) {
      case 'picture':
        return this.dressPicture(element, shown);
      case 'outline':
        return dressPaths(element.firstElementChild!, shown, values);
      case 'film':
      case 'sound': {
        const media = element.firstElementChild as HTMLMediaElement | null;
        const url = shown.asset ? this.options.assetUrl(shown.asset) : '';
        if (media && url && media.getAttribute('src') !== url) media.src = url;
        if (!media) return;
        media.style.objectFit = layer.fit ?? 'contain';
        media.style.objectPosition = cropOf(layer.crop);
        // A browser refuses what an easing carries beyond silent or loud.
        media.volume = Math.min(1, Math.max(0, values.volume));
        return;
      }
      case 'field':
        if (view.control) return this.dressField(view.control, shown, scene);
        return writeText(element, fieldWords(shown), 1);
      case 'layers':
        return;
      default:
        writeText(element, shown.text === undefined ? undefined : countedText(shown.text, values.counted), values.typed);
    }
  }

  private dressField(control: Control, shown: Shown, scene: string): void {
    const root = this.run?.roots[scene];
    showValue(control, shown, root ? valueOfField(root, shown.node) : shown.node.layer.field?.value);
  }

  private dressPicture(element: HTMLElement, shown: Shown): void {
    const img = element.firstElementChild as HTMLImageElement;
    const { layer } = shown.node;
    const url = this.options.assetUrl(shown.asset ?? '');
    if (img.getAttribute('src') !== url) img.src = url;
    const alt = this.options.live && roleOf(shown.node) ? '' : (layer.label ?? layer.name);
    if (img.alt !== alt) img.alt = alt;
    img.style.objectFit = layer.fit ?? 'fill';
    img.style.objectPosition = cropOf(layer.crop);
  }

  private dressRole(element: HTMLElement, shown: Shown): void {
    const role = roleOf(shown.node);
    attribute(element, 'role', role);
    if (!role) return attribute(element, 'tabindex', null);
    attribute(element, 'aria-label', nameOf(shown));
    const focusable = isFocusable(shown.node);
    attribute(element, 'data-takes', takesClicks(shown.node) ? 'press' : null);
    attribute(element, 'tabindex', focusable ? (shown.enabled ? '0' : '-1') : null);
    attribute(element, 'aria-disabled', focusable && !shown.enabled ? 'true' : null);
    attribute(element, 'aria-pressed', canBeSelected(shown.node) && role === 'button' ? String(shown.selected) : null);
  }
}

/** Layers of a scene move with its scrolling, but for those that are pinned. */
function scrolled(shown: Shown, values: Values, { scroll }: Pictured): Values {
  if (scroll.x === 0 && scroll.y === 0) return values;
  const { pin } = shown.node.layer;
  const x = pin?.includes('left') || pin?.includes('right') ? values.x : values.x - scroll.x;
  const y = pin?.includes('top') || pin?.includes('bottom') ? values.y : values.y - scroll.y;
  return { ...values, x, y };
}

const cropOf = (crop: Layer['crop']): string => (crop ? `${crop.x * 100}% ${crop.y * 100}%` : '');

const needsRemaking = (a: Node, b: Node): boolean =>
  a.inside?.scene.scene.id !== b.inside?.scene.scene.id ||
  a.layer.scroll !== b.layer.scroll ||
  a.layer.field !== b.layer.field ||
  a.layer.media !== b.layer.media ||
  a.layer.clip !== b.layer.clip;

/** The outline of a layer, or those that are faded into each other: what they share is as much to be seen as before and after. */
function dressPaths(svg: Element, shown: Shown, values: Values): void {
  const outlines = outlinesOf(values.path ?? layerKind(shown.node.layer).outline ?? 'M0 0');
  while (svg.childElementCount > outlines.length) svg.lastElementChild!.remove();
  while (svg.childElementCount < outlines.length) svg.append(svg.lastElementChild!.cloneNode());
  attribute(svg, 'style', outlines.length > 1 ? 'isolation:isolate' : null);
  outlines.forEach(({ outline, share }, i) => {
    const path = svg.children[i]!;
    attribute(path, 'opacity', share === 1 ? null : String(share));
    attribute(path, 'style', i > 0 ? 'mix-blend-mode:plus-lighter' : null);
    dressPath(path, shown, values, outline);
  });
}

function dressPath(path: Element, shown: Shown, values: Values, outline: string): void {
  const { stroke } = layerKind(shown.node.layer);
  attribute(path, 'd', outline);
  attribute(path, 'fill', stroke === undefined ? (values.fill ?? 'none') : 'none');
  attribute(path, 'stroke', values.lineColor ?? (stroke === undefined ? 'none' : (values.fill ?? DEFAULT_INK)));
  attribute(path, 'stroke-width', String(values.lineWidth || (stroke ?? 0)));
  attribute(path, 'vector-effect', 'non-scaling-stroke');
  attribute(path, 'stroke-linecap', 'round');
  attribute(path, 'stroke-dasharray', dashOf(values, outline)?.join(' ') ?? null);
  attribute(path, 'stroke-opacity', values.drawn > 0 ? null : '0');
}

function attribute(element: Element, name: string, value: string | null): void {
  if (value === null) {
    if (element.hasAttribute(name)) element.removeAttribute(name);
  } else if (element.getAttribute(name) !== value) element.setAttribute(name, value);
}

/** Writes the words of a layer. What is still to be typed takes its room already, so that no line breaks anew under way. */
function writeText(element: HTMLElement, text: string | undefined, typed: number): void {
  const old = element.querySelector(':scope > span');
  if (text === undefined) return void old?.remove();
  const { ownerDocument } = element;
  const span = old ?? ownerDocument.createElement('span');
  const there = typedPart(text, typed);
  const rest = text.slice(there.length);
  if (span.textContent !== text || (span.firstElementChild?.textContent ?? '') !== rest) {
    span.textContent = there;
    if (rest) {
      const unwritten = ownerDocument.createElement('span');
      unwritten.className = 'zany-unwritten';
      unwritten.textContent = rest;
      span.append(unwritten);
    }
  }
  if (!old) element.append(span);
}
