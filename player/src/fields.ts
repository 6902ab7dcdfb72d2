import type { Node, Shown, Value } from '@zany/core/engine';

/** Fields as real form controls. */
export type Control = HTMLInputElement | HTMLSelectElement;

const types = { text: 'text', number: 'number', checkbox: 'checkbox', switch: 'checkbox', slider: 'range' } as const;

export function makeControl(document: Document, node: Node, onValue: (value: Value) => void): Control {
  const field = node.layer.field!;
  const control = field.kind === 'choice' ? makeChoice(document, field.options ?? []) : makeInput(document, field);
  control.className = `zany-control zany-${field.kind}`;
  control.setAttribute('aria-label', node.layer.label ?? node.layer.name);
  control.addEventListener(field.kind === 'choice' || control.type === 'checkbox' ? 'change' : 'input', () => {
    const value = valueIn(control);
    if (value !== null) onValue(value);
  });
  return control;
}

function makeInput(document: Document, field: NonNullable<Node['layer']['field']>): HTMLInputElement {
  const input = document.createElement('input');
  input.type = types[field.kind as keyof typeof types];
  if (field.kind === 'switch') input.setAttribute('role', 'switch');
  if (field.placeholder) input.placeholder = field.placeholder;
  if (field.min !== undefined) input.min = String(field.min);
  if (field.max !== undefined) input.max = String(field.max);
  if (field.kind === 'number' || field.kind === 'slider') input.step = String(field.step ?? 'any');
  input.autocomplete = 'off';
  return input;
}

function makeChoice(document: Document, options: readonly string[]): HTMLSelectElement {
  const select = document.createElement('select');
  for (const text of ['', ...options]) {
    const option = document.createElement('option');
    option.value = option.textContent = text;
    select.append(option);
  }
  return select;
}

/** What stands in a control; null while a number is still being written. */
function valueIn(control: Control): Value | null {
  if (control.type === 'checkbox') return (control as HTMLInputElement).checked;
  if (control.type !== 'number' && control.type !== 'range') return control.value;
  const number = (control as HTMLInputElement).valueAsNumber;
  return Number.isFinite(number) ? number : null;
}

/** Shows a settled value, without disturbing somebody who is writing the same. */
export function showValue(control: Control, shown: Shown, value: Value | undefined): void {
  control.disabled = !shown.enabled;
  if (control.type === 'checkbox') (control as HTMLInputElement).checked = value === true;
  else if (value !== undefined && valueIn(control) !== value) control.value = String(value);
}
