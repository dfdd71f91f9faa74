import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/**
 * Serious and critical findings of accessibility on the page, or within a part of it; empty when there are none.
 * No frame of it comes from elsewhere, and only what is wrong is told: the check then takes a quarter of the time.
 */
export async function flaws(page: Page, within = 'body'): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .include(within)
    .setLegacyMode(true)
    .options({ resultTypes: ['violations'], preload: false })
    .analyze();
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`);
}
