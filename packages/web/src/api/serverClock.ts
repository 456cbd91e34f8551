/** How far the server's clock is before this page's: a phone's may be minutes off. */
let ahead = 0

/** Whenever the server says its time, the page's idea of it is set anew. */
export function hearServerClock(at: number, here = Date.now()): void {
  ahead = at - here
}

/** Now, as the server would say it. */
export const serverNow = (here = Date.now()): number => here + ahead
