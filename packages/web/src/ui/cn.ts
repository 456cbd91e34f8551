import { clsx, type ClassValue } from 'clsx'
import { extendTailwindMerge } from 'tailwind-merge'

const merge = extendTailwindMerge({
  extend: {
    theme: {
      text: ['note', 'typed', 'row', 'body', 'lead', 'head', 'title', 'say', 'arm', 'clock'],
      'font-weight': ['read', 'firm', 'heavy', 'strong'],
      font: ['text', 'typed'],
      breakpoint: ['phone', 'tablet', 'laptop', 'desk'],
    },
  },
})

/**
 * Joins utilities; of two that say the same thing the later one stands.
 *
 * @example cn('px-3 text-row', wide && 'px-4') // 'text-row px-4' when wide
 */
export const cn = (...parts: readonly ClassValue[]): string => merge(clsx(parts))
