import { cn } from './cn'

/** The sheet of a stage: what scrolls beside the walk. It takes the focus when a stage is opened. */
export function Sheet({ className, ref, ...rest }: React.ComponentProps<'main'>) {
  return (
    <main
      ref={ref}
      tabIndex={-1}
      data-sheet
      className={cn(
        'relative min-h-0 min-w-0 overflow-auto bg-sheet [grid-area:main] focus:outline-none print:overflow-visible',
        className,
      )}
      {...rest}
    />
  )
}
