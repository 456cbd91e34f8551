import { Toast as Radix } from 'radix-ui'

/** Where notes that come by themselves are shown: at the foot, right. */
export function Toasts({ children }: { children: React.ReactNode }) {
  return (
    <Radix.Provider duration={Infinity} swipeDirection="right" label="Note">
      {children}
      <Radix.Viewport className="fixed right-5 bottom-5 z-20 grid max-w-[min(560px,90vw)] gap-2 outline-none print:hidden" />
    </Radix.Provider>
  )
}

interface ToastProps {
  /** It needs somebody now, or it only tells. */
  readonly urgent?: boolean
  readonly glyph?: React.ReactNode
  readonly action: React.ReactNode
  readonly children: React.ReactNode
}

/** A note that came by itself and stands until somebody has read it. */
export function Toast({ urgent = false, glyph, action, children }: ToastProps) {
  return (
    <Radix.Root
      open
      data-toast
      type={urgent ? 'foreground' : 'background'}
      role={urgent ? 'alert' : 'status'}
      className="flex items-center gap-3 rounded-sm border-2 border-ink bg-sheet px-3.5 py-2.5 text-lead"
    >
      {glyph}
      <Radix.Description asChild>
        <span className="flex-1">{children}</span>
      </Radix.Description>
      {action}
    </Radix.Root>
  )
}
