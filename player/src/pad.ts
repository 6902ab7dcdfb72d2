import type { Player } from './player.ts';
import { padButtons } from './input.ts';

/** The pad simulator: a button on the screen for each one that the piece waits for. Null for a piece that waits for none. */
export function makePad(document: Document, player: Player): HTMLElement | null {
  const buttons = padButtons(player.piece);
  if (buttons.length === 0) return null;
  const pad = document.createElement('div');
  pad.className = 'zany-pad';
  pad.setAttribute('role', 'group');
  pad.setAttribute('aria-label', 'Pad');
  for (const button of buttons) {
    const element = document.createElement('button');
    element.type = 'button';
    element.textContent = String(button);
    element.setAttribute('aria-label', `Pad button ${button}`);
    element.addEventListener('click', () => player.send({ type: 'pad', button }));
    pad.append(element);
  }
  return pad;
}
