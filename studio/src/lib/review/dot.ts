/** Where the one dot of a review link stands: the share of the width and of the height of the window. */
export interface DotPlace {
  readonly x: number;
  readonly y: number;
}

/** Where it is tried, the best first: in the middle of the edges, away from where bars and tabs are. */
export const PLACES: readonly DotPlace[] = [
  { x: 1, y: 0.6 },
  { x: 1, y: 0.75 },
  { x: 1, y: 0.4 },
  { x: 0, y: 0.6 },
  { x: 0, y: 0.75 },
  { x: 0, y: 0.4 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

const PRESSABLE = '[role=button], [role=link], [role=tab], [role=checkbox], [role=switch], button, a, input, select, textarea';
const HALF = 26;

/** The place it has where nothing under it can be pressed, else the first such; where there is none it stays. */
export function freePlace(host: HTMLElement, now: DotPlace): DotPlace {
  const boxes = [...host.querySelectorAll(PRESSABLE)].map((one) => one.getBoundingClientRect()).filter(({ width }) => width > 0);
  const isFree = ({ x, y }: DotPlace) => {
    const [cx, cy] = [Math.min(innerWidth - HALF, Math.max(HALF, x * innerWidth)), Math.min(innerHeight - HALF, Math.max(HALF, y * innerHeight))];
    return boxes.every((box) => box.right < cx - HALF || box.left > cx + HALF || box.bottom < cy - HALF || box.top > cy + HALF);
  };
  return isFree(now) ? now : (PLACES.find(isFree) ?? now);
}
