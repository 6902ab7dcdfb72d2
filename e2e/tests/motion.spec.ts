import { parseEasing } from '@zany/core';
import { expect, test } from '@playwright/test';

const easings = [
  'linear',
  'ease',
  'ease-in',
  'ease-out',
  'ease-in-out',
  'cubic-bezier(1, 0, 0, 1)',
  'cubic-bezier(0.3, -0.4, 0.6, 1.4)',
  'cubic-bezier(0, 0, 0, 0)',
  'steps(4)',
  'steps(3, jump-both)',
  'steps(5, jump-none)',
  'steps(2, jump-start)',
  'linear(0, 0.25 20% 40%, 1)',
  'linear(0, 1.2, 0.9, 1)',
];

test('every easing agrees with the Web Animations of the browser to 1e-4', async ({ page }) => {
  await page.goto('about:blank');
  const times = Array.from({ length: 200 }, (_, i) => i / 200);
  for (const easing of easings) {
    const theirs = await page.evaluate(
      ([text, moments]) => {
        const animation = new Animation(new KeyframeEffect(document.body, null, { duration: 1000, easing: text as string, fill: 'both' }));
        return (moments as number[]).map((moment) => {
          animation.currentTime = moment * 1000;
          return animation.effect!.getComputedTiming().progress as number;
        });
      },
      [easing, times] as const
    );
    const ours = parseEasing(easing)!;
    const worst = Math.max(...times.map((moment, i) => Math.abs(ours(moment) - theirs[i]!)));
    expect(worst, easing).toBeLessThan(1e-4);
  }
});
