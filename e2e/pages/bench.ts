import { expect, type Locator, type Page } from '@playwright/test';
import { typeOver } from './app.ts';

/** A part of a page by its name. */
export const part = (page: Page, name: string): Locator => page.getByRole('region', { name, exact: true });

/** Connect the stand-ins of an open bench. @param fault number of a hidden truth with a set point that is wrong */
export async function connect(page: Page, fault?: number): Promise<void> {
  const instruments = part(page, 'Instruments');
  if (fault !== undefined) {
    await typeOver(page, 'Number of the hidden truth', String(fault));
    await instruments.getByRole('checkbox').check();
  }
  await instruments.getByRole('button', { name: 'Connect the stand-ins' }).click();
  await expect(instruments.getByRole('article', { name: 'Meter' })).toContainText(/\d\sV/);
}
