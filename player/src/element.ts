import { valueOfVariable, type Program, type Value } from '@zany/core/engine';
import { sendKey } from './input.ts';
import { makePad } from './pad.ts';
import { Player } from './player.ts';

export interface LoadedPiece {
  readonly program: Program;
  readonly assetUrl: (asset: string) => string;
}

/**
 * `<zany-piece src="piece.zip">`: a running piece in any page. Its interface to the page around it:
 *
 * - `variables`: values by name, read afresh at each reading; `setVariable(name, value)`, `sendSignal(name)`, `goTo(frame)`, `restart()`
 * - events `zany-ready`, `zany-signal` (detail: the signal), `zany-frame` (detail: the frame's name), `zany-open` (detail: the address and the id to measure by), `zany-error` (detail: a sentence)
 * - the same by messages to the window of an exported page: `{ zany: 'set', name, value }`, `{ zany: 'signal', name }`, `{ zany: 'go', name }`
 */
export function definePieceElement(load: (src: string) => Promise<LoadedPiece>, css: string): void {
  if (customElements.get('zany-piece')) return;
  customElements.define(
    'zany-piece',
    class extends HTMLElement {
      static observedAttributes = ['src'];
      private player: Player | null = null;
      private frame = '';
      private turn = 0;
      private readonly ground: ShadowRoot = this.attachShadow({ mode: 'open' });

      attributeChangedCallback(_name: string, _old: string | null, src: string | null): void {
        if (src !== null && this.isConnected) void this.open(src);
      }

      connectedCallback(): void {
        const src = this.getAttribute('src');
        if (src !== null) void this.open(src);
      }

      disconnectedCallback(): void {
        this.close();
      }

      get variables(): Record<string, Value> {
        return this.player ? variablesOf(this.player) : {};
      }

      setVariable(name: string, value: Value): boolean {
        return this.player?.setVariable(name, value) ?? false;
      }

      sendSignal(signal: string): void {
        this.player?.send({ type: 'signal', signal });
      }

      goTo(name: string): boolean {
        return this.player !== null && goToNamed(this.player, name);
      }

      restart(): void {
        this.player?.restart();
      }

      private close(): void {
        this.player?.destroy();
        this.player = null;
      }

      private async open(src: string): Promise<void> {
        const turn = ++this.turn;
        try {
          const loaded = await load(new URL(src, document.baseURI).href);
          if (turn === this.turn) this.play(loaded);
        } catch (error) {
          this.tell('zany-error', (error as Error).message);
        }
      }

      private play({ program, assetUrl }: LoadedPiece): void {
        this.close();
        const sheet = new CSSStyleSheet();
        sheet.replaceSync(`:host{display:block;position:relative;overflow:hidden;min-height:1px}${css}`);
        this.ground.adoptedStyleSheets = [sheet];
        const host = document.createElement('div');
        host.style.position = 'absolute';
        host.style.inset = '0';
        this.ground.replaceChildren(host);
        const player = new Player(host, program, {
          assetUrl,
          onSignal: (signal) => this.tell('zany-signal', signal),
          onOpen: (address, measure) => this.tell('zany-open', { address, measure }),
          onReport: (_reports, run) => {
            const name = program.scenes.get(run.frame)?.scene.name ?? '';
            if (name !== this.frame) this.tell('zany-frame', (this.frame = name));
          },
        });
        this.player = player;
        const pad = makePad(document, player);
        if (pad) {
          host.style.bottom = '76px';
          this.ground.append(pad);
        }
        if (!this.hasAttribute('tabindex')) this.tabIndex = 0;
        this.addEventListener('keydown', (event) => this.player === player && sendKey(player, event));
        this.tell('zany-ready', null);
      }

      private tell(type: string, detail: unknown): void {
        this.dispatchEvent(new CustomEvent(type, { detail, bubbles: true }));
      }
    }
  );
}

/** The variables of a running piece by name. */
export function variablesOf(player: Player): Record<string, Value> {
  const { piece, state } = player;
  if (!state) return {};
  return Object.fromEntries(
    [...piece.variables.values()].filter((one) => one.scene === null).map((one) => [one.name, valueOfVariable(piece, state, one.id, one.id)])
  );
}

export function goToNamed(player: Player, name: string): boolean {
  const frame = player.piece.frames.find((id) => player.piece.scenes.get(id)?.scene.name === name);
  if (frame === undefined) return false;
  player.send({ type: 'jump', frame });
  return true;
}

interface Message {
  readonly zany?: unknown;
  readonly name?: unknown;
  readonly value?: unknown;
}

/** Takes messages from the page around an exported page that stands in a frame of it. What is no message of ours is passed over. */
export function takeMessage(player: Player, data: unknown): void {
  const { zany, name, value } = (typeof data === 'object' && data !== null ? data : {}) as Message;
  if (typeof name !== 'string') return;
  if (zany === 'signal') player.send({ type: 'signal', signal: name });
  else if (zany === 'go') goToNamed(player, name);
  else if (zany === 'set' && (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean')) player.setVariable(name, value);
}
