import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** Axe on a page of which no frame is from elsewhere: so it need not open another one to put together what it finds, which takes longer than all else. */
export const axeOn = (page: Page): AxeBuilder => new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
