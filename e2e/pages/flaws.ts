import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** As axe names them, least first. */
const IMPACTS = ['minor', 'moderate', 'serious', 'critical'] as const;

interface Asked {
  /** a part of the page; the whole of it, title and language included, where left out */
  within?: string;
  /** least that counts */
  from?: (typeof IMPACTS)[number];
}

/**
 * Findings of accessibility, serious ones and worse unless said otherwise; empty when there are none. No frame comes from
 * elsewhere, and only what is wrong is told: the check then takes a quarter of the time.
 */
export async function flaws(page: Page, { within, from = 'serious' }: Asked = {}): Promise<string[]> {
  const axe = new AxeBuilder({ page }).setLegacyMode(true);
  axe.options({ resultTypes: ['violations'], preload: false });
  if (within) axe.include(within);
  const { violations } = await axe.analyze();
  const counts = new Set<unknown>(IMPACTS.slice(IMPACTS.indexOf(from)));
  return (
    violations
      // One without an impact counts as the least.
      .filter((v) => counts.has(v.impact ?? 'minor'))
      .map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)
  );
}
