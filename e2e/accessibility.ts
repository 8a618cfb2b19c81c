import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/**
 * What axe finds on a page by WCAG 2 A and AA, a line each. By night only contrast is looked at: nothing else depends on colours.
 * @param except parts that were looked at already, as selectors
 */
export async function axeFindings(page: Page, theme: 'light' | 'dark', except: readonly string[] = []): Promise<string[]> {
  // There are no frames of others: without them axe needs no page of its own to put together what it found.
  let axe = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  axe = theme === 'light' ? axe.withTags(['wcag2a', 'wcag2aa']) : axe.withRules(['color-contrast']);
  for (const part of except) axe = axe.exclude(part);
  const { violations } = await axe.analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`);
}
