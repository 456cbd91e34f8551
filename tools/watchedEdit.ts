import type { Page } from '@playwright/test'

/**
 * When Enter was pressed, and when the frame with the new text was drawn, by the clock of the page. As text: what runs in
 * the page must not be rewritten on its way there.
 */
const watch = `
  var watched = {}
  addEventListener('keydown', ({ key }) => { if (key === 'Enter') watched.enter = Date.now() }, true)
  new MutationObserver(() => {
    const now = watched
    if (now.enter === undefined || now.found || !document.querySelector(now.cell)?.textContent.includes(now.text)) return
    now.found = true
    requestAnimationFrame(() => setTimeout(() => { now.shown = Date.now() }))
  }).observe(document.body, { childList: true, subtree: true, characterData: true })
`

/** Milliseconds from Enter until the new text was drawn, and until the server had taken it. */
export interface EditTimes {
  readonly shown: number[]
  readonly saved: number[]
}

/**
 * Edits cells of a table one after the other, as a person does.
 * @param cells selectors of the cells, taken in turn
 */
export async function editCells(page: Page, cells: readonly string[], edits: number): Promise<EditTimes> {
  const times: EditTimes = { shown: [], saved: [] }
  await page.evaluate(watch)
  for (let k = 0; k < edits; k += 1) {
    const button = `${cells[k % cells.length] ?? ''} button`
    const text = `u${k}`
    await page.locator(button).click()
    await page.keyboard.press('Control+a')
    await page.keyboard.type(text)
    const answered = page.waitForResponse((response) => response.url().endsWith('/changes'))
    await page.evaluate(`watched = ${JSON.stringify({ cell: button, text })}`)
    await page.keyboard.press('Enter')
    const response = await answered
    // The page's own policy lets no text be waited for in it.
    while (!(Number(await page.evaluate('watched.shown')) > 0)) await page.waitForTimeout(10)
    const enter = Number(await page.evaluate('watched.enter'))
    times.shown.push(Number(await page.evaluate('watched.shown')) - enter)
    const { startTime, responseEnd } = response.request().timing()
    times.saved.push(startTime + responseEnd - enter)
  }
  return times
}
