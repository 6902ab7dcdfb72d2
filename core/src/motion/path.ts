/** Paths between two paths: where both have the same commands their numbers are mixed, else the change is made at the middle. */
export function mixPaths(from: string, to: string, t: number): string {
  if (t <= 0 || from === to) return t <= 0 ? from : to;
  if (t >= 1) return to;
  const [a, b] = [partsOf(from), partsOf(to)];
  if (a.shape !== b.shape) return t < 0.5 ? from : to;
  let i = 0;
  return a.shape.replace(/#/g, () => {
    const value = a.numbers[i]! + (b.numbers[i]! - a.numbers[i]!) * t;
    i++;
    return ` ${Math.round(value * 1000) / 1000}`;
  });
}

/** Whether two paths have the same commands, so that one can become the other. */
export const isAlike = (a: string, b: string): boolean => partsOf(a).shape === partsOf(b).shape;

const known = new Map<string, { shape: string; numbers: readonly number[] }>();

function partsOf(path: string): { shape: string; numbers: readonly number[] } {
  const old = known.get(path);
  if (old) return old;
  const numbers: number[] = [];
  const shape = path
    .replace(/[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?/gi, (number) => {
      numbers.push(Number(number));
      return '#';
    })
    .replace(/[\s,]+/g, '');
  if (known.size > 1000) known.clear();
  const made = { shape, numbers };
  known.set(path, made);
  return made;
}
