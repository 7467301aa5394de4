import type { Page } from '@playwright/test'
import axe from 'axe-core'

const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']

/**
 * What axe finds on the page as it stands, a sentence each; with rules, by those alone. Rows of a
 * table are alike: the first six stand for the rest. No page here has frames, so that axe runs in
 * the page itself, which is several times quicker than gathering its parts outside.
 */
export async function axeFinds(page: Page, rules?: string[]): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source)
  return page.evaluate(
    async ({ runOnly }) => {
      const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(
        { exclude: [['tbody > tr:nth-child(n+7)']] },
        { resultTypes: ['violations'], runOnly },
      )
      return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)
    },
    { runOnly: rules ? { type: 'rule' as const, values: rules } : { type: 'tag' as const, values: tags } },
  )
}
