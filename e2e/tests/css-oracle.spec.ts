import { keysById, strokeLength, trackValue, type Keyframe, type TrackOf } from '@zany/core';
import { generator } from './random.ts';
import { expect, test } from './studio.ts';

/** What the browser makes of the same keyframes: the engine's numbers against Web Animations and `color-mix` in Chromium. */

const { next: random, among } = generator(7);
const tidy = (n: number) => Math.round(n * 1000) / 1000;

function easing(): string {
  const kind = Math.floor(random() * 5);
  if (kind === 0) return among(['linear', 'ease', 'ease-in', 'ease-out', 'ease-in-out', 'step-start', 'step-end']);
  if (kind === 1) return `cubic-bezier(${tidy(random())}, ${tidy(random() * 3 - 1)}, ${tidy(random())}, ${tidy(random() * 3 - 1)})`;
  if (kind === 2) return `steps(${2 + Math.floor(random() * 9)}, ${among(['jump-start', 'jump-end', 'jump-none', 'jump-both', 'start', 'end'])})`;
  if (kind === 3)
    return `linear(0, ${tidy(random() * 1.4)} ${Math.round(10 + random() * 30)}%, ${tidy(random())} ${Math.round(50 + random() * 40)}%, 1)`;
  return 'linear(0, 0.4, 1.2, 0.9, 1)';
}

function keyframes(): Keyframe[] {
  const times = [...new Set(Array.from({ length: 2 + Math.floor(random() * 4) }, () => Math.floor(random() * 60)))].sort((a, b) => a - b);
  if (times.length < 2) times.push(times[0]! + 7);
  return times.map((time) => ({ time, value: tidy(random() * 800 - 400), easing: easing() }));
}

const trackOf = (keys: readonly Keyframe[], property: TrackOf['property'] = 'x'): TrackOf => ({ layer: 'boat', property, keys: keysById(keys) });

test('keyframes give the numbers that Web Animations give, to 1e-4', async ({ page }) => {
  await page.goto('/sign-in');
  const cases = Array.from({ length: 120 }, keyframes).map((keys) => {
    const [first, last] = [keys[0]!.time, keys.at(-1)!.time];
    // Not where steps jump: which side of a jump a time is on is a matter of rounding.
    const times = [...keys.map(({ time }) => time), ...Array.from({ length: 12 }, () => first + random() * (last - first))].filter(
      (time) => time < last && !keys.some((key) => key.time !== time && Math.abs(key.time - time) < 1e-3)
    );
    return { keys, times };
  });
  const theirs = await page.evaluate((all) => {
    CSS.registerProperty({ name: '--oracle', syntax: '<number>', inherits: false, initialValue: '0' });
    const node = document.body.appendChild(document.createElement('div'));
    return all.map(({ keys, times }) => {
      const [first, last] = [keys[0]!.time, keys.at(-1)!.time];
      const animation = node.animate(
        keys.map(({ time, value, easing: way }) => ({ offset: (time - first) / (last - first), '--oracle': String(value), easing: way! })),
        { duration: (last - first) * 1000, fill: 'both' }
      );
      animation.pause();
      const values = times.map((time) => {
        animation.currentTime = (time - first) * 1000;
        return Number(getComputedStyle(node).getPropertyValue('--oracle'));
      });
      animation.cancel();
      return values;
    });
  }, cases);
  let compared = 0;
  cases.forEach(({ keys, times }, i) => {
    const one = trackOf(keys);
    times.forEach((time, at) => {
      const ours = Number(trackValue(one, time));
      const their = theirs[i]![at]!;
      const isJump = keys.some((key) => /^step/.test(key.easing!)) && Math.abs(ours - their) > 1e-4;
      // A jump that lies within a thousandth of a frame may be taken a moment earlier or later.
      const near = isJump ? [time - 1e-3, time + 1e-3].map((moment) => Number(trackValue(one, moment))) : [];
      const off = Math.min(...[ours, ...near].map((value) => Math.abs(value - their)));
      expect(off, `${JSON.stringify(keys)} at ${time}: ${ours}, in the browser ${their}`).toBeLessThan(1e-4 * Math.max(1, Math.abs(their)));
      compared++;
    });
  });
  expect(compared).toBeGreaterThan(1200);
});

test('colours go the way that color-mix in OKLab goes', async ({ page }) => {
  await page.goto('/sign-in');
  const hex = () =>
    `#${Array.from({ length: 3 }, () =>
      Math.floor(random() * 256)
        .toString(16)
        .padStart(2, '0')
    ).join('')}`;
  const cases = Array.from({ length: 60 }, () => ({ from: hex(), to: hex(), share: Math.round(random() * 1000) / 1000 }));
  const theirs = await page.evaluate((all) => {
    const pen = new OffscreenCanvas(1, 1).getContext('2d')!;
    return all.map(({ from, to, share }) => {
      pen.fillStyle = `color-mix(in oklab, ${from} ${(1 - share) * 100}%, ${to})`;
      pen.fillRect(0, 0, 1, 1);
      return [...pen.getImageData(0, 0, 1, 1).data.slice(0, 3)];
    });
  }, cases);
  cases.forEach(({ from, to, share }, i) => {
    const keys = [
      { time: 0, value: from },
      { time: 1, value: to },
    ];
    const ours = String(trackValue(trackOf(keys, 'fill'), share));
    const parts = [1, 3, 5].map((at) => parseInt(ours.slice(at, at + 2), 16));
    parts.forEach((part, at) => expect(Math.abs(part - theirs[i]![at]!), `${from} → ${to} at ${share}: ${ours}`).toBeLessThanOrEqual(1));
  });
});

test('a line is as long as the browser says, whatever its commands', async ({ page }) => {
  await page.goto('/sign-in');
  const number = () => tidy(random() * 120 - 10);
  const numbers = (count: number) => Array.from({ length: count }, number).join(' ');
  const command = (): string => {
    const kind = among(['L', 'H', 'V', 'C', 'S', 'Q', 'T', 'A', 'l', 'h', 'v', 'c', 's', 'q', 't', 'a']);
    const arity = { l: 2, h: 1, v: 1, c: 6, s: 4, q: 4, t: 2 }[kind.toLowerCase()];
    if (arity !== undefined) return kind + numbers(arity);
    return `${kind}${tidy(random() * 60 + 1)} ${tidy(random() * 60 + 1)} ${Math.floor(random() * 90)} ${among([0, 1])} ${among([0, 1])} ${numbers(2)}`;
  };
  const paths = Array.from(
    { length: 200 },
    () => `M${numbers(2)}${Array.from({ length: 1 + Math.floor(random() * 6) }, command).join('')}${among(['', 'Z'])}`
  );
  const theirs = await page.evaluate((all) => {
    const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
    return all.map((d) => {
      path.setAttribute('d', d);
      return path.getTotalLength();
    });
  }, paths);
  paths.forEach((path, i) => expect(Math.abs(strokeLength(path, 1, 1) - theirs[i]!), path).toBeLessThan(0.002 * theirs[i]! + 0.01));
});
