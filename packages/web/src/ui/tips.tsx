import { Tooltip } from 'radix-ui'
import { useEffect, useRef, useState } from 'react'

/** Marks an element with what is told of it when it is pointed at or reached by key; see `Tips`. */
export const tip = (text: string | undefined): { readonly 'data-tip'?: string } => (text ? { 'data-tip': text } : {})

/** The same, told only where the text of the element is cut. */
export const tipWhenCut = (text: string) => ({ 'data-tip': text, 'data-tip-cut': '' })

const AFTER_MS = 450

interface Shown {
  readonly text: string
  readonly box: DOMRect
}

const wantsTip = (target: EventTarget | null): HTMLElement | undefined => {
  const element = target instanceof Element ? target.closest<HTMLElement>('[data-tip]') : null
  if (!element) return undefined
  return 'tipCut' in element.dataset && element.scrollWidth <= element.clientWidth ? undefined : element
}

/**
 * One tooltip for the whole page: a table of thousands of cells costs nothing for it. It shows after a moment of
 * pointing, at once when the focus comes by key, and goes with Escape, a press or scrolling.
 */
export function Tips({ children }: { children: React.ReactNode }) {
  const [shown, setShown] = useState<Shown | undefined>(undefined)
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  useEffect(() => {
    const hide = () => {
      clearTimeout(timer.current)
      setShown(undefined)
    }
    const show = (element: HTMLElement) =>
      setShown({ text: element.dataset['tip'] ?? '', box: element.getBoundingClientRect() })
    const onOver = (event: PointerEvent) => {
      hide()
      const element = wantsTip(event.target)
      if (element) timer.current = setTimeout(() => element.isConnected && show(element), AFTER_MS)
    }
    const onFocus = (event: FocusEvent) => {
      hide()
      const element = wantsTip(event.target)
      if (element?.matches(':focus-visible')) show(element)
    }
    document.addEventListener('pointerover', onOver)
    document.addEventListener('focusin', onFocus)
    document.addEventListener('pointerdown', hide)
    document.addEventListener('keydown', hide)
    window.addEventListener('scroll', hide, true)
    return () => {
      hide()
      document.removeEventListener('pointerover', onOver)
      document.removeEventListener('focusin', onFocus)
      document.removeEventListener('pointerdown', hide)
      document.removeEventListener('keydown', hide)
      window.removeEventListener('scroll', hide, true)
    }
  }, [])
  return (
    <>
      {children}
      {shown && shown.text !== '' && (
        <Tooltip.Provider>
          <Tooltip.Root open>
            <Tooltip.Trigger asChild>
              <span
                aria-hidden
                className="pointer-events-none fixed"
                style={{ left: shown.box.left, top: shown.box.top, width: shown.box.width, height: shown.box.height }}
              />
            </Tooltip.Trigger>
            <Tooltip.Portal>
              <Tooltip.Content
                sideOffset={5}
                collisionPadding={8}
                className="pointer-events-none z-80 max-w-85 rounded-sm bg-ink px-2.5 py-1.5 text-note leading-snug text-sheet"
              >
                {shown.text}
              </Tooltip.Content>
            </Tooltip.Portal>
          </Tooltip.Root>
        </Tooltip.Provider>
      )}
    </>
  )
}
