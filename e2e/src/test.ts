import {
  test as base,
  type Browser,
  type BrowserContext,
  type BrowserContextOptions,
  type Page,
} from '@playwright/test'

interface Window {
  /** The window that is handed from test to test; a new one where there is none. */
  readonly page: () => Promise<Page>
  readonly forget: () => Promise<void>
}

interface OwnWindow {
  /** For tests that do to the page what cannot be taken back: another size or touch, scripts put in. */
  readonly ownWindow: boolean
}

const usualSize = { width: 1280, height: 800 }
/** A press that was made while the page drew itself anew waits for a button that is gone: told after this, not after all. */
const LONGEST_ACTION_MS = 60_000

async function openWindow(browser: Browser, how: BrowserContextOptions): Promise<BrowserContext> {
  const context = await browser.newContext(how)
  context.setDefaultTimeout(LONGEST_ACTION_MS)
  return context
}

/**
 * Playwright's test, with one window for the tests of a worker: a new one for each costs more than most tests do in it.
 * Between two tests it is emptied: storage, cookies, permissions, size, what was listened to and turned aside. After a
 * test that failed, or where the window cannot be emptied, the next test gets a new one.
 */
export const test = base.extend<OwnWindow, { shared: Window }>({
  ownWindow: [false, { option: true }],
  shared: [
    async ({ browser }, use) => {
      let kept: Page | undefined
      await use({
        page: async () => {
          kept ??= await (await openWindow(browser, { viewport: usualSize })).newPage()
          return kept
        },
        forget: async () => {
          const closing = kept
          kept = undefined
          await closing?.context().close()
        },
      })
      await kept?.context().close()
    },
    { scope: 'worker' },
  ],
  context: async ({ browser, ownWindow, shared, viewport, hasTouch }, use, { errors }) => {
    if (ownWindow) {
      const context = await openWindow(browser, { viewport, hasTouch })
      await use(context)
      await context.close()
      return
    }
    const page = await shared.page()
    await use(page.context())
    const emptied =
      errors.length === 0 &&
      (await empty(page).then(
        () => true,
        () => false,
      ))
    if (!emptied) await shared.forget()
  },
  page: async ({ context }, use) => use(context.pages()[0] ?? (await context.newPage())),
})

export { expect, type Locator, type Page } from '@playwright/test'

/** @throws Error when the page no longer answers */
async function empty(page: Page): Promise<void> {
  const context = page.context()
  for (const other of context.pages()) if (other !== page) await other.close()
  page.removeAllListeners()
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  const { origin } = new URL(page.url())
  await clearStorage(page)
  // A picture of the same server: a blank page would cost a process, and a new one for the next test.
  await page.goto(`${origin}/mark.svg`)
  await clearOf(context, page, origin)
  await context.clearPermissions()
  await page.emulateMedia({ media: null, colorScheme: null })
  if (page.viewportSize()?.width !== usualSize.width) await page.setViewportSize(usualSize)
}

const clearStorage = (page: Page) =>
  page.evaluate(() => {
    sessionStorage.clear()
    localStorage.clear()
  })

/** What a page writes while it is left is cleared as well. */
async function clearOf(context: BrowserContext, page: Page, origin: string): Promise<void> {
  await context.clearCookies()
  const session = await context.newCDPSession(page)
  await session.send('Storage.clearDataForOrigin', { origin, storageTypes: 'local_storage,indexeddb,cache_storage' })
  await session.detach()
}
