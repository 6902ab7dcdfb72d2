import { computeAccessibleName, getRole } from 'dom-accessibility-api';

/** What a screen reader comes to in a running piece, in order, as it is in the page that runs. */
export interface Said {
  readonly role: string;
  readonly name: string;
  /** `disabled`, `selected`, what stands in a field. */
  readonly state: string;
}

/** Roles as people know them; a role that is not here says nothing by itself. */
const WORDS: Readonly<Record<string, string>> = {
  button: 'button',
  link: 'link',
  heading: 'heading',
  img: 'picture',
  textbox: 'text field',
  spinbutton: 'number field',
  slider: 'slider',
  checkbox: 'checkbox',
  switch: 'switch',
  combobox: 'choice',
  listbox: 'choice',
};

/** Roles whose content is only their name. */
const WHOLE: ReadonlySet<string> = new Set([
  'button',
  'link',
  'heading',
  'img',
  'checkbox',
  'switch',
  'slider',
  'textbox',
  'spinbutton',
  'combobox',
  'listbox',
]);

export function readOut(root: Element): Said[] {
  const said: Said[] = [];
  const visit = (node: Node): void => {
    if (node.nodeType === Node.TEXT_NODE) {
      const text = node.textContent!.replace(/\s+/g, ' ').trim();
      if (text) said.push({ role: '', name: text, state: '' });
      return;
    }
    if (!(node instanceof Element) || isAway(node)) return;
    const role = node instanceof HTMLMediaElement ? (node instanceof HTMLVideoElement ? 'video' : 'sound') : (getRole(node) ?? '');
    if (WHOLE.has(role) || node instanceof HTMLMediaElement) {
      const name = computeAccessibleName(node);
      if (role === 'img' && !name) return;
      said.push({ role: WORDS[role] ?? role, name, state: stateOf(node) });
      return;
    }
    for (const child of node.childNodes) visit(child);
  };
  visit(root);
  return said;
}

function isAway(element: Element): boolean {
  if (element.getAttribute('aria-hidden') === 'true' || element instanceof HTMLStyleElement || element instanceof HTMLScriptElement) return true;
  const { display, visibility } = getComputedStyle(element);
  return display === 'none' || visibility === 'hidden';
}

function stateOf(element: Element): string {
  const parts = [
    element.getAttribute('aria-disabled') === 'true' || (element as HTMLInputElement).disabled ? 'disabled' : '',
    element.getAttribute('aria-pressed') === 'true' ? 'selected' : '',
  ];
  if (element instanceof HTMLInputElement) parts.push(element.type === 'checkbox' ? (element.checked ? 'ticked' : 'not ticked') : element.value);
  if (element instanceof HTMLSelectElement) parts.push(element.value);
  return parts.filter(Boolean).join(', ');
}
